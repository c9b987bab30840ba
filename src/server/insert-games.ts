import { randomUUID } from 'node:crypto';
import { eq, sql } from 'drizzle-orm';
import { FIRST_VERSION, type GameRecord } from '@/core/game/record';
import type { Transaction } from './database';
import type { OwnerRef } from './owner';
import { withPlayers } from './player-names';
import { COLUMNS_SQL, keysOf, type PreparedGame } from './prepared-game';
import { gameKeys, games } from './schema';

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
    const { fingerprint } = game;
    if (taken.has(fingerprint) && !asCopies) return fingerprint;
    const own = taken.has(fingerprint) ? copyOf(fingerprint) : fingerprint;
    taken.add(own);
    fresh.push({ ...game, fingerprint: own });
    return own;
  });
  const stored = await insertRows(tx, owner, fresh, source);
  const lost = fresh.filter(({ fingerprint }) => !stored.has(fingerprint));
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

/** Words of one kind as one value: a statement takes only so many. */
const list = (words: readonly (string | number)[]) => sql.param(`{${words.join(',')}}`);

/** The owner's games by their fingerprints. */
async function knownGames(
  tx: Transaction,
  owner: OwnerRef,
  prepared: readonly PreparedGame[],
): Promise<Map<string, number>> {
  const { rows } = await tx.execute<{ id: string; fingerprint: string }>(
    sql`select id, fingerprint from games where owner_id = ${owner.id}
      and fingerprint = any(${list(prepared.map(({ fingerprint }) => fingerprint))}::text[])`,
  );
  return new Map(rows.map(({ id, fingerprint }) => [fingerprint, Number(id)]));
}

/** What the JSON of a game holds. */
const TOLD_COLUMNS = [
  ...COLUMNS_SQL,
  { name: 'nodes', type: 'jsonb' },
  { name: 'tags', type: 'jsonb' },
  { name: 'keys', type: 'text' },
];
const FRESH_NAMES = sql.raw(TOLD_COLUMNS.map(({ name }) => name).join(', '));
const FRESH = sql.raw(TOLD_COLUMNS.map(({ name, type }) => `${name} ${type}`).join(', '));
/** A game's own columns among them, but for what tells a copy from what it is a copy of. */
const TOLD = sql.raw(
  COLUMNS_SQL.map(({ name }) => name)
    .filter((name) => name !== games.fingerprint.name)
    .join(', '),
);

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
    prepared.map(({ players: [firstPlayer, secondPlayer] }) => ({ firstPlayer, secondPlayer })),
  );
  const ids = (side: 'firstPlayerId' | 'secondPlayerId') =>
    list(named.map((row) => row[side] ?? 'null'));
  const { rows } = await tx.execute<{ id: string; fingerprint: string }>(
    sql`with fresh as (
        select * from rows from (
          json_to_recordset(${`[${prepared.map(({ json }) => json).join(',')}]`}::json) as (${FRESH}),
          unnest(${list(prepared.map(({ fingerprint }) => fingerprint))}::text[]),
          unnest(${ids('firstPlayerId')}::bigint[]),
          unnest(${ids('secondPlayerId')}::bigint[])
        ) as fresh (${FRESH_NAMES}, own_fingerprint, first_player_id, second_player_id)
      ), inserted as (
        insert into games (owner_id, source, version, first_player_id, second_player_id, fingerprint, ${TOLD})
        select ${owner.id}::uuid, ${source}, ${FIRST_VERSION}, first_player_id, second_player_id, own_fingerprint, ${TOLD}
        from fresh
        on conflict (owner_id, fingerprint) do nothing
        returning id, owner_id, fingerprint
      ), kept as (
        insert into game_records (game_id, nodes, tags)
        select id, nodes, tags from inserted join fresh on own_fingerprint = inserted.fingerprint
      ), indexed as (
        insert into game_keys (game_id, owner_id, keys)
        select id, owner_id, decode(keys, 'base64') from inserted join fresh on own_fingerprint = inserted.fingerprint
      )
      select id, fingerprint from inserted`,
  );
  return new Map(rows.map(({ id, fingerprint }) => [fingerprint, Number(id)]));
}

/** Keeps by what the positions of a game's main line are found, in place of what was kept before. */
export async function indexPositions(
  tx: Transaction,
  id: number,
  record: GameRecord,
): Promise<void> {
  await tx
    .update(gameKeys)
    .set({ keys: keysOf(record) })
    .where(eq(gameKeys.gameId, id));
}
