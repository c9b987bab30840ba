import { randomBytes } from 'node:crypto';
import { aliasedTable, and, desc, eq, isNull, or, sql, type SQL } from 'drizzle-orm';
import type { Grant, GrantScope } from '@/contract/grants';
import type { Granted } from '@/contract/rights';
import { grantedTo, type Asker } from './access';
import { findAccount } from './accounts';
import { mayTry } from './attempts';
import { announce } from './events';
import { database, type Database, type Transaction } from './database';
import { presentGames } from './chosen-games';
import { OWNER, type Owner, type OwnerRef } from './owner';
import { bases, collections, games, grants, owners } from './schema';

const grantees = aliasedTable(owners, 'grantees');

const GRANT = {
  id: grants.id,
  gameId: grants.gameId,
  collectionId: grants.collectionId,
  baseId: grants.baseId,
  players: sql<string | null>`case when ${grants.gameId} is not null
    then coalesce(${games.firstPlayer}, '?') || ' – ' || coalesce(${games.secondPlayer}, '?') end`,
  collection: collections.name,
  base: bases.name,
  owner: owners.name,
  grantee: grantees.name,
  link: grants.link,
  right: grants.right,
  // the day before it ends
  until: sql<
    string | null
  >`to_char(${grants.expiresAt} at time zone 'utc' - interval '1 day', 'YYYY-MM-DD')`,
};

interface Row extends Omit<Grant, 'scope' | 'title'> {
  gameId: number | null;
  collectionId: number | null;
  baseId: number | null;
  players: string | null;
  collection: string | null;
  base: string | null;
}

const select = (which: SQL, db: Database | Transaction = database()): Promise<Row[]> =>
  db
    .select(GRANT)
    .from(grants)
    .innerJoin(owners, eq(owners.id, grants.ownerId))
    .leftJoin(grantees, eq(grantees.id, grants.granteeId))
    .leftJoin(games, eq(games.id, grants.gameId))
    .leftJoin(collections, eq(collections.id, grants.collectionId))
    .leftJoin(bases, eq(bases.id, grants.baseId))
    .where(and(which, isNull(games.deletedAt)))
    .orderBy(desc(grants.id));

function grantOf({ gameId, collectionId, baseId, players, collection, base, ...row }: Row): Grant {
  const scope: GrantScope =
    gameId !== null
      ? { of: 'game', id: gameId }
      : collectionId !== null
        ? { of: 'collection', id: collectionId }
        : baseId !== null
          ? { of: 'base', id: baseId }
          : { of: 'all' };
  return { ...row, scope, title: players ?? collection ?? base };
}

/** What an owner has given to others, whether it still counts or not; of a game alone, where one is named. */
export const grantsBy = async (owner: OwnerRef, gameId?: number): Promise<Grant[]> =>
  (
    await select(
      and(
        eq(grants.ownerId, owner.id),
        gameId === undefined ? undefined : eq(grants.gameId, gameId),
      )!,
    )
  ).map(grantOf);

/** What somebody has been given, and still counts; the links themselves are left out. */
export const grantsTo = async (asker: Asker): Promise<Grant[]> =>
  (await select(grantedTo(asker))).map((row) => ({ ...grantOf(row), link: null }));

/** One of those, with who has given it. */
export async function grantTo(
  asker: Asker,
  id: number,
): Promise<{ grant: Grant; owner: Owner } | null> {
  const [row] = await select(and(grantedTo(asker), eq(grants.id, id))!);
  if (!row) return null;
  const [owner] = await database()
    .select(OWNER)
    .from(grants)
    .innerJoin(owners, eq(owners.id, grants.ownerId))
    .where(eq(grants.id, id));
  return { grant: { ...grantOf(row), link: null }, owner: owner! };
}

/** The same where games of a library are given, be it all of them. */
export async function libraryGrantTo(
  asker: Asker,
  id: number,
): Promise<{ grant: Grant; owner: Owner; right: Granted } | null> {
  const found = await grantTo(asker, id);
  if (!found || !['all', 'collection'].includes(found.grant.scope.of)) return null;
  return { ...found, right: found.grant.right };
}

/** The collection that an owner has given, null: all games; undefined where it has just been withdrawn. */
export async function collectionGiven(
  owner: OwnerRef,
  id: number,
): Promise<number | null | undefined> {
  const [row] = await database()
    .select({ collectionId: grants.collectionId })
    .from(grants)
    .where(and(eq(grants.ownerId, owner.id), eq(grants.id, id)));
  return row?.collectionId;
}

/** The grant that a link is; null where it has been withdrawn or is over. */
export async function grantOfLink(link: string): Promise<Grant | null> {
  const [row] = await select(and(grantedTo({ account: null, links: [link] }))!);
  return row ? grantOf(row) : null;
}

const DAY_MS = 24 * 3600 * 1000;

/** As many names as somebody may look for in an hour. */
const LOOKED_FOR = { most: 60, seconds: 3600 };

export interface Gift {
  scope: GrantScope;
  /** The exact name of an account; null: a link. */
  to: string | null;
  right: Granted;
  /** The last day on which it counts, in UTC; null: until it is withdrawn. */
  until: string | null;
}

export type GiftProblem = 'missing' | 'nobody' | 'self' | 'tooMany';

/** Gives something of an owner's to somebody; what they had been given of the same gives way. */
export async function give(
  owner: Owner,
  { scope, to, right, until }: Gift,
): Promise<Grant | GiftProblem> {
  if (!(await isOwn(owner, scope))) return 'missing';
  let grantee: Owner | null = null;
  if (to !== null) {
    if (!(await mayTry(`give ${owner.id}`, LOOKED_FOR))) return 'tooMany';
    grantee = await findAccount(to);
    if (!grantee) return 'nobody';
    if (grantee.id === owner.id) return 'self';
  }
  const gameId = scope.of === 'game' ? scope.id : null;
  const collectionId = scope.of === 'collection' ? scope.id : null;
  const baseId = scope.of === 'base' ? scope.id : null;
  const made = await database().transaction(async (tx) => {
    // gifts of one owner are made one after the other
    await tx.select({ id: owners.id }).from(owners).where(eq(owners.id, owner.id)).for('update');
    if (grantee)
      await tx
        .delete(grants)
        .where(
          and(
            eq(grants.ownerId, owner.id),
            eq(grants.granteeId, grantee.id),
            sql`${grants.gameId} is not distinct from ${gameId}`,
            sql`${grants.collectionId} is not distinct from ${collectionId}`,
            sql`${grants.baseId} is not distinct from ${baseId}`,
          ),
        );
    const [row] = await tx
      .insert(grants)
      .values({
        right,
        expiresAt: until === null ? null : new Date(Date.parse(until) + DAY_MS),
        ownerId: owner.id,
        gameId,
        collectionId,
        baseId,
        granteeId: grantee?.id ?? null,
        link: grantee ? null : randomBytes(24).toString('base64url'),
      })
      .returning({ id: grants.id });
    // read here: the next gift takes this one's place
    return grantOf((await select(eq(grants.id, row!.id), tx))[0]!);
  });
  if (grantee) await announce({ owner: grantee.id, type: 'grant', id: made.id });
  return made;
}

async function isOwn(owner: OwnerRef, scope: GrantScope): Promise<boolean> {
  if (scope.of === 'all') return true;
  const db = database();
  if (scope.of === 'game')
    return (await db.$count(games, and(presentGames(owner), eq(games.id, scope.id)))) > 0;
  const table = scope.of === 'collection' ? collections : bases;
  return (await db.$count(table, and(eq(table.ownerId, owner.id), eq(table.id, scope.id)))) > 0;
}

/** Ends a grant, whether by who gave it or by whom it was given to; false where there is none of theirs. */
export async function withdraw(account: OwnerRef, id: number): Promise<boolean> {
  const ended = await database()
    .delete(grants)
    .where(
      and(eq(grants.id, id), or(eq(grants.ownerId, account.id), eq(grants.granteeId, account.id))),
    )
    .returning({ id: grants.id });
  return ended.length > 0;
}
