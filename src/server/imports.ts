import { and, eq, inArray, sql } from 'drizzle-orm';
import type { Problem } from '@/core/game/problem';
import type { GameRecord } from '@/core/game/record';
import { database } from './database';
import { announce } from './events';
import { insertGames } from './games';
import type { Owner } from './owner';
import { dequeue, enqueue } from './queue';
import { imports, type ImportState } from './schema';

export interface ImportStatus {
  id: number;
  name: string;
  size: number;
  state: ImportState;
  read: number;
  kept: number;
  duplicates: number;
  failed: number;
  problems: Problem[];
  gameIds: number[];
}

/** How many problems and games are remembered of one import. */
const REMEMBERED = 200;
const OPEN: ImportState[] = ['queued', 'running'];

/** Everything but the file itself. */
const STATUS = {
  id: imports.id,
  name: imports.name,
  size: imports.size,
  state: imports.state,
  read: imports.read,
  kept: imports.kept,
  duplicates: imports.duplicates,
  failed: imports.failed,
  problems: imports.problems,
  gameIds: imports.gameIds,
};

/** Takes a file in to be read by the worker. */
export const queueImport = (
  owner: Owner,
  name: string,
  bytes: Uint8Array,
  asCopies: boolean,
): Promise<ImportStatus> =>
  database().transaction(async (tx) => {
    const [created] = await tx
      .insert(imports)
      .values({ ownerId: owner.id, name, bytes: Buffer.from(bytes), size: bytes.length, asCopies })
      .returning(STATUS);
    await enqueue(tx, 'import', created!.id);
    return created!;
  });

export async function findImport(owner: Owner, id: number): Promise<ImportStatus | null> {
  const [row] = await database()
    .select(STATUS)
    .from(imports)
    .where(and(eq(imports.ownerId, owner.id), eq(imports.id, id)));
  return row ?? null;
}

/** Calls an import off; the games it has stored stay. */
export async function cancelImport(owner: Owner, id: number): Promise<boolean> {
  const cancelled = await database().transaction(async (tx) => {
    const [row] = await tx
      .update(imports)
      .set({ state: 'cancelled', bytes: Buffer.alloc(0), finishedAt: new Date() })
      .where(and(eq(imports.ownerId, owner.id), eq(imports.id, id), inArray(imports.state, OPEN)))
      .returning({ id: imports.id });
    if (row) await dequeue(tx, 'import', id);
    return row !== undefined;
  });
  if (cancelled) await announce({ owner: owner.id, type: 'import', id, cancelled: true });
  return cancelled;
}

/** For the worker: the file and how far it has been read; null once it is no longer open. */
export async function openImport(id: number): Promise<typeof imports.$inferSelect | null> {
  const [row] = await database()
    .select()
    .from(imports)
    .where(and(eq(imports.id, id), inArray(imports.state, OPEN)));
  return row ?? null;
}

/** One part of a file: games that were read, and problems of those that were not. */
export interface ImportPart {
  records: GameRecord[];
  problems: Problem[];
}

/**
 * For the worker: stores a part in one transaction together with the progress, so that an import taken up again
 * goes on behind it. False when the import has been called off.
 */
export async function storePart(
  row: typeof imports.$inferSelect,
  part: ImportPart,
): Promise<boolean> {
  const owner = { id: row.ownerId, playerName: '' };
  const stored = await database().transaction(async (tx) => {
    const [current] = await tx
      .select(STATUS)
      .from(imports)
      .where(and(eq(imports.id, row.id), inArray(imports.state, OPEN)))
      .for('update');
    if (!current) return false;
    const insertions =
      part.records.length > 0
        ? await insertGames(tx, owner, part.records, row.name, row.asCopies)
        : [];
    const duplicates = insertions.filter(({ duplicate }) => duplicate).length;
    await tx
      .update(imports)
      .set({
        state: 'running',
        read: current.read + part.records.length + part.problems.length,
        kept: current.kept + insertions.length - duplicates,
        duplicates: current.duplicates + duplicates,
        failed: current.failed + part.problems.length,
        problems: [...current.problems, ...part.problems].slice(0, REMEMBERED),
        gameIds: [...current.gameIds, ...insertions.map(({ id }) => id)].slice(0, REMEMBERED),
      })
      .where(eq(imports.id, row.id));
    return true;
  });
  if (stored) await announce({ owner: row.ownerId, type: 'import', id: row.id });
  return stored;
}

/** For the worker: ends an import and lets go of the file. */
export async function finishImport(
  row: typeof imports.$inferSelect,
  state: 'done' | 'failed',
  problem?: Problem,
): Promise<void> {
  await database()
    .update(imports)
    .set({
      state,
      bytes: Buffer.alloc(0),
      finishedAt: sql`now()`,
      ...(problem ? { problems: sql`problems || ${JSON.stringify([problem])}::jsonb` } : {}),
    })
    .where(and(eq(imports.id, row.id), inArray(imports.state, OPEN)));
  await announce({ owner: row.ownerId, type: 'import', id: row.id });
}
