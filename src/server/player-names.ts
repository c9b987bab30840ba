import { and, eq, inArray, sql } from 'drizzle-orm';
import { nameKey } from '@/core/game/player-name';
import type { Transaction } from './database';
import type { OwnerRef } from './owner';
import { playerNames, players } from './schema';

interface NamedRow {
  firstPlayer?: string | null | undefined;
  secondPlayer?: string | null | undefined;
}

/** Rows of games with who plays in them; players that were never met before are made. */
export async function withPlayers<Row extends NamedRow>(
  tx: Transaction,
  owner: OwnerRef,
  rows: readonly Row[],
): Promise<(Row & { firstPlayerId: number | null; secondPlayerId: number | null })[]> {
  // many games are of the same few: each spelling is looked at once
  const names = new Set(
    rows.flatMap(({ firstPlayer, secondPlayer }) => [firstPlayer, secondPlayer]),
  );
  const known = await playersOfNames(tx, owner, names);
  const ids = new Map(
    [...names].map((name) => [name, name ? (known.get(nameKey(name)) ?? null) : null]),
  );
  const idOf = (name: string | null | undefined): number | null => ids.get(name) ?? null;
  return rows.map((row) => ({
    ...row,
    firstPlayerId: idOf(row.firstPlayer),
    secondPlayerId: idOf(row.secondPlayer),
  }));
}

/**
 * Holds who the owner's players are until the transaction ends: one at a time meets new names, joins or parts. To be taken before
 * any row of a game or a player is locked, so that nobody waits for each other.
 */
export const lockPlayers = (tx: Transaction, owner: OwnerRef) =>
  tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`players of ${owner.id}`}, 0))`);

/** Ids of players by the keys of their names. */
async function playersOfNames(
  tx: Transaction,
  owner: OwnerRef,
  names: Iterable<string | null | undefined>,
): Promise<Map<string, number>> {
  /** As first met, by their keys. */
  const wanted = new Map<string, string>();
  for (const name of names) {
    const key = name ? nameKey(name) : '';
    if (key !== '' && !wanted.has(key)) wanted.set(key, name!);
  }
  if (wanted.size === 0) return new Map();
  await lockPlayers(tx, owner);
  const rows = await tx
    .select({ key: playerNames.key, playerId: playerNames.playerId })
    .from(playerNames)
    .where(and(eq(playerNames.ownerId, owner.id), inArray(playerNames.key, [...wanted.keys()])));
  const known = new Map(rows.map(({ key, playerId }) => [key, playerId]));
  const fresh = [...wanted].filter(([key]) => !known.has(key));
  if (fresh.length === 0) return known;
  const made = await tx
    .insert(players)
    .values(fresh.map(([, name]) => ({ ownerId: owner.id, name })))
    .returning({ id: players.id, name: players.name });
  const ids = new Map(made.map(({ id, name }) => [name, id]));
  for (const [key, name] of fresh) known.set(key, ids.get(name)!);
  await tx
    .insert(playerNames)
    .values(
      fresh.map(([key, name]) => ({ ownerId: owner.id, key, name, playerId: ids.get(name)! })),
    );
  return known;
}

/** Takes a player for the owner, unless it is known already who that is. */
export async function beSelfAtFirst(tx: Transaction, owner: OwnerRef, id: number): Promise<void> {
  await tx
    .update(players)
    .set({ isSelf: true })
    .where(
      and(
        eq(players.ownerId, owner.id),
        eq(players.id, id),
        sql`not exists (select from players as self where self.owner_id = ${owner.id} and self.is_self)`,
      ),
    );
}
