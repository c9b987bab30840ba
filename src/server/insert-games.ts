import { randomUUID } from 'node:crypto';
import { and, eq, inArray, sql } from 'drizzle-orm';
import { FIRST_VERSION } from '@/core/game/record';
import type { Transaction } from './database';
import type { OwnerRef } from './owner';
import { withPlayers } from './player-names';
import type { PreparedGame } from './prepared-game';
import { games, positions } from './schema';

export interface Insertion {
  id: number;
  /** The game was there already; `id` is that game's. */
  duplicate: boolean;
}

/**
 * Stores games, all or none, and tells for each whether it was there already. However many they are, it takes a few statements.
 * @param asCopies keep games that are there already as further copies
 */
export async function insertGames(
  tx: Transaction,
  owner: OwnerRef,
  prepared: readonly PreparedGame[],
  source: string,
  asCopies = false,
): Promise<Insertion[]> {
  const known = await knownGames(tx, owner, prepared);
  const taken = new Set(known.keys());
  const fresh: PreparedGame[] = [];
  /** The fingerprint of each game as it is, or will be, stored. */
  const fingerprints = prepared.map((game) => {
    const { fingerprint } = game.row;
    if (taken.has(fingerprint) && !asCopies) return fingerprint;
    const own = taken.has(fingerprint) ? copyOf(fingerprint) : fingerprint;
    taken.add(own);
    fresh.push({ ...game, row: { ...game.row, fingerprint: own } });
    return own;
  });
  const stored = await insertRows(tx, owner, fresh, source);
  await indexPositions(
    tx,
    fresh.flatMap(({ row, keys }) => {
      const id = stored.get(row.fingerprint);
      return id === undefined ? [] : [{ id, keys }];
    }),
  );
  const lost = fresh.filter(({ row }) => !stored.has(row.fingerprint));
  // others were quicker with the same games
  const others = lost.length > 0 ? await knownGames(tx, owner, lost) : new Map<string, number>();
  const told = new Set<string>();
  return fingerprints.map((fingerprint) => {
    const id = stored.get(fingerprint);
    const duplicate = id === undefined || told.has(fingerprint);
    told.add(fingerprint);
    return { id: id ?? known.get(fingerprint) ?? others.get(fingerprint)!, duplicate };
  });
}

/** Tells a copy from what it is a copy of. */
export const copyOf = (fingerprint: string): string => `${fingerprint}:${randomUUID()}`;

/** The owner's games by their fingerprints. */
async function knownGames(
  tx: Transaction,
  owner: OwnerRef,
  prepared: readonly PreparedGame[],
): Promise<Map<string, number>> {
  const rows = await tx
    .select({ id: games.id, fingerprint: games.fingerprint })
    .from(games)
    .where(
      and(
        eq(games.ownerId, owner.id),
        inArray(
          games.fingerprint,
          prepared.map(({ row }) => row.fingerprint),
        ),
      ),
    );
  return new Map(rows.map(({ id, fingerprint }) => [fingerprint, id]));
}

/** The ids of those that were not there. */
async function insertRows(
  tx: Transaction,
  owner: OwnerRef,
  prepared: readonly PreparedGame[],
  source: string,
): Promise<Map<string, number>> {
  if (prepared.length === 0) return new Map();
  const named = await withPlayers(
    tx,
    owner,
    prepared.map(({ row }) => row),
  );
  const rows = await tx
    .insert(games)
    .values(named.map((row) => ({ ...row, ownerId: owner.id, source, version: FIRST_VERSION })))
    .onConflictDoNothing({ target: [games.ownerId, games.fingerprint] })
    .returning({ id: games.id, fingerprint: games.fingerprint });
  return new Map(rows.map(({ id, fingerprint }) => [fingerprint, id]));
}

/** Keeps the keys of main lines in place of what was kept of them before. */
export async function indexPositions(
  tx: Transaction,
  lines: readonly { id: number; keys: readonly string[] }[],
): Promise<void> {
  if (lines.length === 0) return;
  const ids = lines.map(({ id }) => id);
  const rows = lines.flatMap(({ id, keys }) => keys.map((key, ply) => ({ id, ply, key })));
  const list = (values: readonly (string | number)[]) => sql.param(`{${values.join(',')}}`);
  await tx.delete(positions).where(inArray(positions.gameId, ids));
  await tx.execute(
    sql`insert into positions (game_id, ply, key) select * from unnest(${list(rows.map(({ id }) => id))}::bigint[], ${list(rows.map(({ ply }) => ply))}::smallint[], ${list(rows.map(({ key }) => key))}::bigint[])`,
  );
}
