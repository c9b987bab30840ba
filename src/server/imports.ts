import {
  and,
  desc,
  eq,
  getTableColumns,
  inArray,
  isNotNull,
  isNull,
  lt,
  ne,
  sql,
  type SQL,
} from 'drizzle-orm';
import type { ImportStatus } from '@/contract/imports';
import type { Problem } from '@/core/game/problem';
import { readSettingsText, settingsText, type SweepSettings } from '@/core/review/sweep-settings';
import type { GameKind } from '@/core/game/ruleset';
import { isDue, lockBase, storeBaseGames } from './base-games';
import { sweepNewGames } from './batches';
import { database, type Transaction } from './database';
import { announce } from './events';
import { keepFailures, type GameFailure } from './import-failures';
import { gamesIn, type ImportPart } from './import-part';
import { insertGames, type Insertion } from './insert-games';
import { logger } from './log';
import { mergeDuplicates } from './merge-games';
import type { OwnerRef } from './owner';
import { lockPlayers } from './player-names';
import { learnNames } from './players';
import type { PreparedGame } from './prepared-game';
import { dequeue, enqueueBase, enqueueImport } from './queue';
import { bases, collections, importPieces, imports, players, type ImportState } from './schema';
import { settings } from './settings';
import { Slots } from './slots';
import { isRefusedData, toldError } from './told-error';

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
  merged: imports.merged,
  failed: imports.failed,
  problems: imports.problems,
  notes: imports.notes,
  gameIds: imports.gameIds,
  readBytes: imports.readBytes,
  /** Milliseconds since reading began, until it was over. */
  elapsed: sql<
    number | null
  >`(extract(epoch from coalesce(${imports.finishedAt}, now()) - ${imports.startedAt}) * 1000)::float8`,
};

/** Bytes of a file that are held in memory at once. */
const PIECE = 1024 * 1024;
/** Files that are taken in at once by one process, so that their pieces together stay small. */
const uploads = new Slots(4);
/** Bytes that one owner may have waiting to be read. */
const MOST_WAITING = 2 * 1024 * 1024 * 1024;

/** What becomes of the games of a file. */
export interface ImportWishes {
  /** Those that are there already are kept as further copies. */
  asCopies?: boolean;
  /** How those that go in are gone over; null: not unless asked. */
  sweep?: SweepSettings | null;
  /** What all of them are put into, and are found by. */
  collection?: number | null;
  labels?: readonly string[];
  /** The player whose games they are, under whatever name. */
  player?: number | null;
  /** The base that they go into instead of the library. */
  base?: number | null;
  /** Nobody waits for them. */
  isUnhurried?: boolean;
}

/**
 * Takes a file in, piece by piece, to be read by the worker; a file that is larger than allowed, or that comes while too much is
 * waiting already, leaves nothing behind. `missing`: there is no such collection or player of the owner's.
 */
export const queueImport = (
  owner: OwnerRef,
  name: string,
  file: Iterable<Uint8Array> | AsyncIterable<Uint8Array>,
  {
    asCopies = false,
    sweep = null,
    collection = null,
    labels = [],
    player = null,
    base = null,
    isUnhurried = false,
  }: ImportWishes = {},
): Promise<ImportStatus | 'tooLarge' | 'tooMuch' | 'missing'> =>
  uploads.run(async () => {
    if (!(await areOwn(owner, collection, player, base))) return 'missing';
    if ((await waitingBytes(owner)) > MOST_WAITING) return 'tooMuch';
    const db = database();
    const [created] = await db
      .insert(imports)
      .values({
        ownerId: owner.id,
        name,
        size: 0,
        asCopies,
        sweep: sweep && settingsText(sweep),
        collectionId: collection,
        labels: [...labels],
        playerId: player,
        baseId: base,
      })
      .returning({ id: imports.id });
    const { id } = created!;
    try {
      if (await storePieces(id, file, settings().importBytes))
        return await db.transaction(async (tx) => {
          const [queued] = await tx
            .update(imports)
            .set({ state: 'queued' })
            .where(eq(imports.id, id))
            .returning(STATUS);
          const waitedFor = isUnhurried ? 'nobody' : base === null ? 'library' : 'base';
          await enqueueImport(tx, id, waitedFor, queued!.size);
          return queued!;
        });
    } catch (error) {
      await forgetUpload(id);
      throw error;
    }
    await forgetUpload(id);
    return 'tooLarge';
  });

async function areOwn(
  owner: OwnerRef,
  collection: number | null,
  player: number | null,
  base: number | null,
): Promise<boolean> {
  const isOwn = async (
    table: typeof collections | typeof players | typeof bases,
    id: number | null,
    also?: SQL,
  ) =>
    id === null ||
    (await database().$count(table, and(eq(table.ownerId, owner.id), eq(table.id, id), also))) > 0;
  return (
    (await isOwn(collections, collection)) &&
    (await isOwn(players, player)) &&
    (await isOwn(bases, base, eq(bases.source, 'files')))
  );
}

async function waitingBytes(owner: OwnerRef): Promise<number> {
  const [row] = await database()
    .select({ bytes: sql<string>`coalesce(sum(size), 0)` })
    .from(imports)
    .where(and(eq(imports.ownerId, owner.id), inArray(imports.state, ['uploading', ...OPEN])));
  return Number(row!.bytes);
}

async function forgetUpload(id: number): Promise<void> {
  await database()
    .delete(imports)
    .where(eq(imports.id, id))
    .catch((error: unknown) =>
      logger('import').warn({ err: error, import: id }, 'a broken upload stays'),
    );
}

/** False, with some pieces stored, where the file is larger than `most` bytes. */
async function storePieces(
  id: number,
  file: Iterable<Uint8Array> | AsyncIterable<Uint8Array>,
  most: number,
): Promise<boolean> {
  let held: Uint8Array[] = [];
  let heldSize = 0;
  let size = 0;
  let place = 0;
  const store = async (): Promise<void> => {
    const bytes = Buffer.concat(held);
    held = [];
    heldSize = 0;
    await database().insert(importPieces).values({ importId: id, place: place++, bytes });
    await database().update(imports).set({ size }).where(eq(imports.id, id));
  };
  for await (const piece of file) {
    size += piece.length;
    if (size > most) return false;
    held.push(piece);
    heldSize += piece.length;
    if (heldSize >= PIECE) await store();
  }
  if (heldSize > 0) await store();
  return true;
}

/** Forgets uploads whose process was killed before they were complete. */
export async function forgetBrokenUploads(): Promise<void> {
  const before = new Date(Date.now() - 24 * 3600 * 1000);
  await database()
    .delete(imports)
    .where(and(eq(imports.state, 'uploading'), lt(imports.createdAt, before)));
}

export async function findImport(owner: OwnerRef, id: number): Promise<ImportStatus | null> {
  const [row] = await database()
    .select(STATUS)
    .from(imports)
    .where(and(eq(imports.ownerId, owner.id), eq(imports.id, id)));
  return row ?? null;
}

/** The owner's latest imports into the library or into bases, whatever became of them. */
export const latestImports = (
  owner: OwnerRef,
  into: 'library' | 'bases',
  most: number,
): Promise<ImportStatus[]> =>
  database()
    .select(STATUS)
    .from(imports)
    .where(
      and(
        eq(imports.ownerId, owner.id),
        ne(imports.state, 'uploading'),
        into === 'library' ? isNull(imports.baseId) : isNotNull(imports.baseId),
      ),
    )
    .orderBy(desc(imports.id))
    .limit(most);

/** Calls an import off; the games it has stored stay. */
export async function cancelImport(owner: OwnerRef, id: number): Promise<boolean> {
  const cancelled = await database().transaction(async (tx) => {
    const [row] = await tx
      .update(imports)
      .set({ state: 'cancelled', finishedAt: new Date() })
      .where(and(eq(imports.ownerId, owner.id), eq(imports.id, id), inArray(imports.state, OPEN)))
      .returning({ id: imports.id });
    if (!row) return false;
    await tx.delete(importPieces).where(eq(importPieces.importId, id));
    await dequeue(tx, 'import', id);
    return true;
  });
  if (cancelled) await announce({ owner: owner.id, type: 'import', id, cancelled: true });
  return cancelled;
}

export type OpenImport = typeof imports.$inferSelect & {
  /** The game of the base that it goes into. */
  baseKind: GameKind | null;
};

/** For the worker: an import and how far it has been read; null once it is no longer open. */
export async function openImport(id: number): Promise<OpenImport | null> {
  const [row] = await database()
    .select({ ...getTableColumns(imports), baseKind: bases.kind })
    .from(imports)
    .leftJoin(bases, eq(bases.id, imports.baseId))
    .where(and(eq(imports.id, id), inArray(imports.state, OPEN)));
  return row ?? null;
}

/** For the worker: the pieces of the file in their order. */
export async function* piecesOf(id: number): AsyncGenerator<Buffer> {
  for (let place = 0; ; place++) {
    const [piece] = await database()
      .select({ bytes: importPieces.bytes })
      .from(importPieces)
      .where(and(eq(importPieces.importId, id), eq(importPieces.place, place)));
    if (!piece) return;
    yield piece.bytes;
  }
}

/**
 * For the worker: stores a part in one transaction together with the progress, so that an import taken up again
 * goes on behind it. A game that the database refuses is told of and does not hold back the others. False when the import
 * has been called off.
 * @param readBytes bytes of the file that have been read so far
 */
export async function storePart(
  row: OpenImport,
  part: ImportPart,
  readBytes = 0,
): Promise<boolean> {
  const owner = { id: row.ownerId };
  const merged = await database().transaction(async (tx) => {
    const [current] = await tx
      .select({ ...STATUS, batchId: imports.batchId })
      .from(imports)
      .where(and(eq(imports.id, row.id), inArray(imports.state, OPEN)))
      .for('update');
    if (!current) return null;
    const held = row.baseId === null ? null : await lockBase(tx, row.baseId);
    const baseGames = held ? await storeBaseGames(tx, held, part.baseGames) : 0;
    if (held && isDue({ ...held, size: held.size + baseGames })) await enqueueBase(tx, held.id);
    await lockPlayers(tx, owner);
    const { insertions, refused } = await insertAll(tx, owner, part.games, row, current.read);
    const fresh = insertions.flatMap(({ id, duplicate }) => (duplicate ? [] : [id]));
    const duplicates = insertions.filter(({ duplicate }) => duplicate);
    const added = await mergeDuplicates(tx, owner, duplicates);
    await assign(tx, owner, row, insertions);
    const batchId =
      row.sweep === null || fresh.length === 0
        ? current.batchId
        : await sweepNewGames(tx, owner, current.batchId, fresh, readSettingsText(row.sweep));
    const failures = [...part.failures, ...refused];
    await keepFailures(tx, row.id, failures);
    const problems = failures.map(({ problem }) => problem);
    await tx
      .update(imports)
      .set({
        state: 'running',
        batchId,
        failures: 0,
        startedAt: sql`coalesce(started_at, now())`,
        readBytes,
        read: current.read + gamesIn(part),
        kept: current.kept + fresh.length + baseGames,
        duplicates: current.duplicates + duplicates.length + part.baseGames.length - baseGames,
        merged: current.merged + added.length,
        failed: current.failed + problems.length,
        problems: [...current.problems, ...problems].slice(0, REMEMBERED),
        notes: [...current.notes, ...part.notes].slice(0, REMEMBERED),
        gameIds: [...current.gameIds, ...insertions.map(({ id }) => id)].slice(0, REMEMBERED),
      })
      .where(eq(imports.id, row.id));
    return added;
  });
  if (merged === null) return false;
  await announce({ owner: row.ownerId, type: 'import', id: row.id });
  for (const id of merged) await announce({ owner: row.ownerId, type: 'game', id, gameId: id });
  return true;
}

/** Puts games where whoever sent them wants them. */
async function assign(
  tx: Transaction,
  owner: OwnerRef,
  { collectionId, labels, playerId }: OpenImport,
  stored: readonly Stored[],
): Promise<void> {
  const ids = sql.param(`{${stored.map(({ id }) => id).join(',')}}`);
  if (collectionId !== null)
    await tx.execute(sql`insert into collection_games (collection_id, game_id)
      select collections.id, game_id from collections, unnest(${ids}::bigint[]) as game_id
      where collections.id = ${collectionId} and owner_id = ${owner.id} on conflict do nothing`);
  for (const label of labels)
    await tx.execute(sql`update games set labels = array_append(labels, ${label})
      where owner_id = ${owner.id} and id = any(${ids}::bigint[]) and not ${label} = any(labels)`);
  if (playerId !== null)
    await learnNames(
      tx,
      owner,
      playerId,
      stored.map(({ prepared }) => prepared.players),
    );
}

/** A game as it was stored, or was there already. */
type Stored = Insertion & { prepared: PreparedGame };

/** Stores games together, or where one of them is refused each by itself. */
async function insertAll(
  tx: Transaction,
  owner: OwnerRef,
  games: readonly PreparedGame[],
  { name, asCopies }: OpenImport,
  before: number,
): Promise<{ insertions: Stored[]; refused: GameFailure[] }> {
  if (games.length === 0) return { insertions: [], refused: [] };
  const insert = (some: readonly PreparedGame[]): Promise<Stored[] | null> =>
    inSavepoint(tx, async (inner) => {
      const insertions = await insertGames(inner, owner, some, name, asCopies);
      return insertions.map((one, index) => ({ ...one, prepared: some[index]! }));
    });
  const together = await insert(games);
  if (together) return { insertions: together, refused: [] };
  const insertions: Stored[] = [];
  const refused: GameFailure[] = [];
  for (const [index, game] of games.entries()) {
    const alone = await insert([game]);
    if (alone) insertions.push(...alone);
    else
      refused.push({
        problem: {
          code: 'game.refused',
          params: {},
          place: { line: 1, column: 1, game: before + index + 1 },
        },
        text: null,
        format: null,
      });
  }
  return { insertions, refused };
}

/** What work gives, or null where the database refuses its data; the transaction goes on. */
async function inSavepoint<T>(
  tx: Transaction,
  work: (inner: Transaction) => Promise<T>,
): Promise<T | null> {
  try {
    return await tx.transaction(work);
  } catch (error) {
    if (!isRefusedData(error)) throw error;
    logger('import').warn({ err: toldError(error) }, 'a game was refused');
    return null;
  }
}

/** For the worker: another attempt went wrong; how many have since the import last got on. */
export async function countImportFailure(id: number): Promise<number> {
  const [row] = await database()
    .update(imports)
    .set({ failures: sql`failures + 1` })
    .where(eq(imports.id, id))
    .returning({ failures: imports.failures });
  return row?.failures ?? 0;
}

/** For the worker: ends an import and lets go of the file. */
export async function finishImport(
  row: Pick<OpenImport, 'id' | 'ownerId' | 'baseId'>,
  state: 'done' | 'failed',
  problem?: Problem,
): Promise<void> {
  await database().transaction(async (tx) => {
    await tx
      .update(imports)
      .set({
        state,
        finishedAt: sql`now()`,
        ...(problem ? { problems: sql`problems || ${JSON.stringify([problem])}::jsonb` } : {}),
      })
      .where(and(eq(imports.id, row.id), inArray(imports.state, OPEN)));
    await tx.delete(importPieces).where(eq(importPieces.importId, row.id));
    if (row.baseId !== null) await enqueueBase(tx, row.baseId);
  });
  await announce({ owner: row.ownerId, type: 'import', id: row.id });
}
