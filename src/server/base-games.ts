import { and, eq, gt, sql, type SQL } from 'drizzle-orm';
import { nameKey } from '@/core/game/player-name';
import { database, pool, type Transaction } from './database';
import { selectGames } from './game-rows';
import { recordOf } from './games';
import { BASE_COLUMNS, prepareBaseGame, type PreparedBaseGame } from './prepared-base-game';
import { bases, games } from './schema';

export type BaseRow = typeof bases.$inferSelect;

/** Holds a base until the transaction ends; null where there is none any more. */
export async function lockBase(tx: Transaction, id: number): Promise<BaseRow | null> {
  const [row] = await tx.select().from(bases).where(eq(bases.id, id)).for('no key update');
  return row ?? null;
}

/** Fills a base unless somebody is at it, on this machine or another; the lock goes with the connection at the latest. */
export async function aloneWith(id: number, fill: () => Promise<void>): Promise<void> {
  const session = await pool().connect();
  const lock = async (name: 'pg_try_advisory_lock' | 'pg_advisory_unlock'): Promise<boolean> => {
    const { rows } = await session.query<{ isSo: boolean }>(
      `select ${name}(hashtextextended($1, 0)) as "isSo"`,
      [`filling of base ${id}`],
    );
    return rows[0]!.isSo;
  };
  try {
    if (!(await lock('pg_try_advisory_lock'))) return;
    try {
      await fill();
    } finally {
      await lock('pg_advisory_unlock');
    }
  } finally {
    session.release();
  }
}

/** From so many games on that can't be asked for yet, a base that is being filled is made ready so far. */
const DUE = 65_536;

export const isDue = ({ size, indexed }: Pick<BaseRow, 'size' | 'indexed'>): boolean =>
  size - indexed >= DUE;

const NAMES = sql.raw(BASE_COLUMNS.map(({ name }) => name).join(', '));
const TYPED = sql.raw(BASE_COLUMNS.map(({ name, type }) => `${name} ${type}`).join(', '));
const OTHERS = sql.raw(
  BASE_COLUMNS.map(({ name }) => name)
    .filter((name) => name !== 'moves')
    .join(', '),
);

/**
 * Stores games in a base that is held; those that are there already are left out.
 * @returns how many went in
 */
export async function storeBaseGames(
  tx: Transaction,
  base: Pick<BaseRow, 'id' | 'size'>,
  prepared: readonly PreparedBaseGame[],
): Promise<number> {
  if (prepared.length === 0) return 0;
  const ids = await playersOf(
    tx,
    base.id,
    prepared.flatMap(({ players }) => players),
  );
  const side = (place: 0 | 1) =>
    sql.param(`{${prepared.map(({ players }) => ids(players[place]) ?? 'null').join(',')}}`);
  const { rowCount } = await tx.execute(
    sql`with fresh as (
        select row_number() over () as place, * from rows from (
          json_to_recordset(${`[${prepared.map(({ json }) => json).join(',')}]`}::json) as (${TYPED}),
          unnest(${side(0)}::integer[]),
          unnest(${side(1)}::integer[])
        ) as fresh (${NAMES}, first_player_id, second_player_id)
      ), wanted as (
        select distinct on (fingerprint) * from fresh
        where not exists (
          select from base_games known where known.base_id = ${base.id} and known.fingerprint = fresh.fingerprint
        ) order by fingerprint, place
      )
      insert into base_games (base_id, number, first_player_id, second_player_id, ${OTHERS}, moves)
      select ${base.id}, ${base.size} + row_number() over (order by place) - 1, first_player_id, second_player_id, ${OTHERS}, decode(moves, 'base64')
      from wanted`,
  );
  const stored = rowCount ?? 0;
  if (stored > 0)
    await tx
      .update(bases)
      .set({ size: base.size + stored })
      .where(eq(bases.id, base.id));
  return stored;
}

/** Ids of the players in a base by their names; those never met before are made. */
async function playersOf(
  tx: Transaction,
  baseId: number,
  names: Iterable<string | null>,
): Promise<(name: string | null) => number | null> {
  /** As first met, by their keys. */
  const wanted = new Map<string, string>();
  const keys = new Map<string | null, string>();
  for (const name of names) {
    if (keys.has(name)) continue;
    const key = name === null ? '' : nameKey(name);
    keys.set(name, key);
    if (key !== '' && !wanted.has(key)) wanted.set(key, name!);
  }
  const told = JSON.stringify(Array.from(wanted, ([key, name]) => ({ key, name })));
  const { rows } = await tx.execute<{ key: string; id: number }>(
    sql`with named as (select * from json_to_recordset(${told}::json) as named (key text, name text)),
      made as (
        insert into base_players (base_id, key, name)
        select ${baseId}, key, name from named
        where not exists (select from base_players known where known.base_id = ${baseId} and known.key = named.key)
        returning key, id
      )
      select key, id from made union all
      select key, id from base_players join named using (key) where base_id = ${baseId}`,
  );
  const ids = new Map(rows.map(({ key, id }) => [key, id]));
  return (name) => ids.get(keys.get(name) ?? '') ?? null;
}

/** The games of the library that a base follows; `games` is theirs. */
const followed = ({ ownerId, collectionId, kind }: BaseRow): SQL =>
  sql`games.owner_id = ${ownerId} and games.kind = ${kind} and games.deleted_at is null and games.prepared_for is null${
    collectionId === null
      ? sql``
      : sql` and exists (select from collection_games held where held.game_id = games.id and held.collection_id = ${collectionId})`
  }`;

/** What a collection held, to see whether it changed. */
const membersOf = (collectionId: SQL | number) =>
  sql`(select count(*) || ' ' || coalesce(sum(game_id), 0) from collection_games where collection_id = ${collectionId})`;

/**
 * Bases that follow a library which has changed since they were last looked at, or some of whose games can't be asked for yet: those
 * that are being filled from a file see to that themselves, in larger parts.
 */
export async function staleBases(): Promise<number[]> {
  const { rows } = await database().execute<{ id: string }>(
    sql`select id from bases where (indexed < size and not exists (
      select from imports where imports.base_id = bases.id and imports.state in ('queued', 'running'))
    ) or (source <> 'files' and (
      exists (select from games where games.owner_id = bases.owner_id and games.changed >= bases.seen)
      or (collection_id is not null and seen_members is distinct from ${membersOf(sql`bases.collection_id`)})))`,
  );
  return rows.map(({ id }) => Number(id));
}

/** As many games as are taken over at a time. */
const PART = 500;

/** Takes over what has changed in the library that a base follows: games that are new, and those that were deleted, changed or moved. */
export async function followLibrary(id: number): Promise<void> {
  const db = database();
  const [base] = await db.select().from(bases).where(eq(bases.id, id));
  if (!base || base.source === 'files') return;
  const { rows } = await db.execute<{ seen: string; members: string | null }>(
    sql`select txid_snapshot_xmin(txid_current_snapshot()) as seen, ${base.collectionId === null ? sql`null` : membersOf(base.collectionId)} as members`,
  );
  await db.transaction((tx) => letGo(tx, base));
  for (let last: number | null = 0; last !== null;) last = await takeOver(base, last);
  await db
    .update(bases)
    .set({ seen: Number(rows[0]!.seen), seenMembers: rows[0]!.members })
    .where(eq(bases.id, id));
}

/** Games that have left, or are no longer as they were: their numbers stay, what was in them does not. */
async function letGo(tx: Transaction, base: BaseRow): Promise<void> {
  if (!(await lockBase(tx, base.id))) return;
  const { rowCount } = await tx.execute(
    sql`update base_games set fingerprint = null, game_id = null, event = null, moves = '', tags = '[]',
        depth = null, first_figures = null, second_figures = null
      where base_id = ${base.id} and game_id is not null and not exists (
        select from games where games.id = base_games.game_id and games.version = game_version and ${followed(base)})`,
  );
  if (rowCount)
    await tx
      .update(bases)
      .set({ gone: sql`gone + ${rowCount}`, version: sql`version + 1` })
      .where(eq(bases.id, base.id));
}

/** Takes over some games that the base does not have yet, of those behind an id; the id of the last, or null once there are none. */
async function takeOver(base: BaseRow, after: number): Promise<number | null> {
  const rows = await selectGames()
    .where(
      and(
        followed(base),
        gt(games.id, after),
        sql`not exists (select from base_games taken where taken.game_id = games.id and taken.base_id = ${base.id})`,
      ),
    )
    .orderBy(games.id)
    .limit(PART);
  const prepared = rows.map((row) => prepareBaseGame(recordOf(row), row));
  await database().transaction(async (tx) => {
    const held = await lockBase(tx, base.id);
    if (held) await storeBaseGames(tx, held, prepared);
  });
  return rows.at(-1)?.id ?? null;
}
