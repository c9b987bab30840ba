import { and, asc, eq, or, sql, type SQL } from 'drizzle-orm';
import type { Base } from '@/contract/bases';
import type { GameKind } from '@/core/game/ruleset';
import { basesGivenTo } from './access';
import { staleBases } from './base-games';
import { database } from './database';
import { announce } from './events';
import { dequeue, enqueueBase } from './queue';
import type { Owner, OwnerRef } from './owner';
import { bases, collections, owners } from './schema';

/** As many bases as one owner may have. */
const MOST_BASES = 50;

/** @param reader who asks */
const select = (reader: OwnerRef, which: SQL): Promise<Base[]> =>
  database()
    .select({
      id: bases.id,
      name: bases.name,
      kind: bases.kind,
      source: bases.source,
      collection: collections.name,
      games: sql<number>`${bases.size} - ${bases.gone}`,
      indexed: sql<number>`greatest(0, ${bases.indexed} - ${bases.gone})`,
      givenBy: sql<
        string | null
      >`case when ${bases.ownerId} <> ${reader.id} then ${owners.name} end`,
    })
    .from(bases)
    .innerJoin(owners, eq(owners.id, bases.ownerId))
    .leftJoin(collections, eq(collections.id, bases.collectionId))
    .where(which)
    .orderBy(asc(bases.name));

/** An owner's bases by name. */
export const ownBases = (owner: OwnerRef): Promise<Base[]> =>
  select(owner, eq(bases.ownerId, owner.id));

/** The bases that somebody may ask: their own, and those given to them; of one kind of game, where one is named. */
export const listBases = (reader: Owner, kind?: GameKind): Promise<Base[]> =>
  select(reader, and(mayAsk(reader), kind && eq(bases.kind, kind))!);

/** A base of a game that somebody may ask, as it stands; null where there is none. */
export async function findBase(
  reader: Owner,
  id: number,
  kind: GameKind,
): Promise<{ version: number; indexed: number } | null> {
  const [row] = await database()
    .select({ version: bases.version, indexed: bases.indexed })
    .from(bases)
    .where(and(mayAsk(reader), eq(bases.id, id), eq(bases.kind, kind)));
  return row ?? null;
}

/** Whether somebody may ask a row of bases. */
export const mayAsk = (reader: Owner): SQL =>
  or(eq(bases.ownerId, reader.id), basesGivenTo({ account: reader, links: [] }))!;

/** Where the games of a base come from. */
export type BaseSource =
  { from: 'files' } | { from: 'collection'; id: number } | { from: 'library' };

/** Makes a base, which a worker fills. */
export async function makeBase(
  owner: OwnerRef,
  { name, kind, source }: { name: string; kind: GameKind; source: BaseSource },
): Promise<Base | 'taken' | 'missing' | 'tooMany'> {
  const collectionId = source.from === 'collection' ? source.id : null;
  const made = await database().transaction(async (tx) => {
    await tx.execute(
      sql`select pg_advisory_xact_lock(hashtextextended(${`bases of ${owner.id}`}, 0))`,
    );
    const own = eq(collections.ownerId, owner.id);
    if (
      collectionId !== null &&
      (await tx.$count(collections, and(own, eq(collections.id, collectionId)))) === 0
    )
      return 'missing';
    if ((await tx.$count(bases, eq(bases.ownerId, owner.id))) >= MOST_BASES) return 'tooMany';
    const [row] = await tx
      .insert(bases)
      .values({ ownerId: owner.id, name, kind, source: source.from, collectionId })
      .onConflictDoNothing()
      .returning({ id: bases.id });
    if (!row) return 'taken';
    if (source.from !== 'files') await enqueueBase(tx, row.id);
    return row;
  });
  if (typeof made === 'string') return made;
  const [base] = await select(owner, eq(bases.id, made.id));
  return base!;
}

/** Takes a base away with all that it holds. False where there is none. */
export async function removeBase(owner: OwnerRef, id: number): Promise<boolean> {
  return database().transaction(async (tx) => {
    const removed = await tx
      .delete(bases)
      .where(and(eq(bases.ownerId, owner.id), eq(bases.id, id)))
      .returning({ id: bases.id });
    await dequeue(tx, 'base', id);
    return removed.length > 0;
  });
}

/** For the worker: sees to it that bases which are not up to date stand in the queue. */
export async function queueStaleBases(): Promise<void> {
  const db = database();
  for (const id of await staleBases()) {
    const { rows } = await db.execute(
      sql`select from graphile_worker.jobs where key = ${`base:${id}`}`,
    );
    if (rows.length === 0) await enqueueBase(db, id);
  }
}

/** Tells whoever looks that a base has got on. */
export async function announceBase(id: number): Promise<void> {
  const [base] = await database()
    .select({ owner: bases.ownerId })
    .from(bases)
    .where(eq(bases.id, id));
  if (base) await announce({ owner: base.owner, type: 'base', id });
}
