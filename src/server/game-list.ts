import { and, asc, desc, eq, inArray, isNull, like, or, sql, type SQL } from 'drizzle-orm';
import type { GameFilter } from '@/contract/game-filter';
import { folded } from '@/core/game/folded';
import type { Result } from '@/core/game/result';
import type { GameKind, Side } from '@/core/game/ruleset';
import { database } from './database';
import type { Owner, OwnerRef } from './owner';
import { ownSideOf } from './own-side';
import { searchTextOf } from './prepared-game';
import { collectionGames, games } from './schema';

/** A filter, or games one by one. */
export interface GameChoice extends GameFilter {
  ids?: readonly number[] | undefined;
}

export interface GameSummary {
  id: number;
  kind: GameKind;
  players: [string | null, string | null];
  ratings: [number | null, number | null];
  result: Result;
  date: string | null;
  event: string | null;
  round: string | null;
  plies: number;
  timeControl: string | null;
  handicap: string | null;
  /** The owner's side; null where neither they nor the names tell. */
  ownSide: Side | null;
  /** Of either side, as the last complete sweep says; null without any. */
  accuracy: [number | null, number | null] | null;
}

/** A place in the list: games are ordered by date, those without one last, and then by id, the newest first. */
export interface ListPlace {
  date: string | null;
  id: number;
}

/** From which place on, and which way. */
export interface ListStretch {
  from: ListPlace;
  way: 'older' | 'newer';
}

export interface GamePage {
  games: GameSummary[];
  total: number;
  /** From where the next stretch either way begins; null where there is none. */
  newer: ListPlace | null;
  older: ListPlace | null;
}

export const PAGE = 50;

const PLACE = sql`(coalesce(${games.date}, ''), ${games.id})`;

/** The owner's games that a filter holds. */
export function gamesOf(owner: OwnerRef, filter: GameChoice): SQL {
  const conditions: SQL[] = [eq(games.ownerId, owner.id)];
  if (filter.kind) conditions.push(eq(games.kind, filter.kind));
  if (filter.ids) conditions.push(inArray(games.id, [...filter.ids]));
  for (const player of [filter.player, filter.against])
    if (player !== undefined)
      conditions.push(or(eq(games.firstPlayerId, player), eq(games.secondPlayerId, player))!);
  if (filter.collection !== undefined)
    conditions.push(
      inArray(
        games.id,
        database()
          .select({ id: collectionGames.gameId })
          .from(collectionGames)
          .where(eq(collectionGames.collectionId, filter.collection)),
      ),
    );
  for (const word of folded(filter.text ?? '')
    .split(/\s+/)
    .filter(Boolean))
    conditions.push(like(games.searchText, `%${word.replace(/[\\%_]/g, '\\$&')}%`));
  return and(...conditions)!;
}

/** A page of the owner's games, the newest ones unless a stretch is asked for, and how many there are in all. */
export async function listGames(
  owner: Owner,
  filter: GameFilter,
  stretch: ListStretch | null = null,
): Promise<GamePage> {
  const wanted = gamesOf(owner, filter);
  const isNewer = stretch?.way === 'newer';
  const place = stretch && sql`(${stretch.from.date ?? ''}, ${stretch.from.id}::bigint)`;
  const order = isNewer ? asc : desc;
  const rows = await database()
    .select(SUMMARY)
    .from(games)
    .where(
      and(
        wanted,
        place ? (isNewer ? sql`${PLACE} > ${place}` : sql`${PLACE} < ${place}`) : undefined,
      ),
    )
    .orderBy(order(sql`coalesce(${games.date}, '')`), order(games.id))
    .limit(PAGE + 1);
  const hasMore = rows.length > PAGE;
  const shown = rows.slice(0, PAGE);
  if (isNewer) shown.reverse();
  const placeOf = (row: (typeof rows)[number] | undefined): ListPlace | null =>
    row ? { date: row.date, id: row.id } : null;
  const hasNewer = isNewer ? hasMore : stretch !== null;
  const hasOlder = isNewer || hasMore;
  return {
    games: shown.map((row) => summaryOf(owner, row)),
    total: await database().$count(games, wanted),
    newer: hasNewer ? placeOf(shown[0]) : null,
    older: hasOlder ? placeOf(shown.at(-1)) : null,
  };
}

const SUMMARY = {
  id: games.id,
  kind: games.kind,
  firstPlayer: games.firstPlayer,
  secondPlayer: games.secondPlayer,
  firstRating: games.firstRating,
  secondRating: games.secondRating,
  result: games.result,
  date: games.date,
  event: games.event,
  round: games.round,
  plies: games.plies,
  timeControl: games.timeControl,
  handicap: games.handicap,
  ownSide: games.ownSide,
  firstPlayerId: games.firstPlayerId,
  secondPlayerId: games.secondPlayerId,
  // written out: Drizzle names columns without their table where only one is selected from
  accuracy: sql<[number | null, number | null] | null>`(
    select jsonb_build_array(
      findings->'findings'->'accuracy'->0->'value', findings->'findings'->'accuracy'->1->'value')
    from asks
    where asks.game_id = games.id and plan = 'sweep' and state = 'done' and findings is not null
    order by asks.id desc limit 1)`,
};

type SummaryRow = Pick<typeof games.$inferSelect, Exclude<keyof typeof SUMMARY, 'accuracy'>> & {
  accuracy: GameSummary['accuracy'];
};

const summaryOf = (
  owner: Owner,
  {
    firstPlayer,
    secondPlayer,
    firstRating,
    secondRating,
    ownSide,
    firstPlayerId,
    secondPlayerId,
    ...row
  }: SummaryRow,
): GameSummary => ({
  ...row,
  players: [firstPlayer, secondPlayer],
  ratings: [firstRating, secondRating],
  ownSide: ownSideOf(owner, { ownSide, firstPlayerId, secondPlayerId }),
});

/** Whether any game was ever stored: who has deleted the demo games does not want them back. */
export async function everHadGames(): Promise<boolean> {
  const { rows } = await database().execute<{ is_called: boolean }>(
    sql`select is_called from games_id_seq`,
  );
  return rows[0]?.is_called === true;
}

export async function countGames(owner: OwnerRef): Promise<number> {
  return database().$count(games, eq(games.ownerId, owner.id));
}

/** Gives games that were stored before it what searches look at. */
export async function fillSearchText(): Promise<void> {
  const { id, firstPlayer, secondPlayer, event, date } = games;
  const rows = await database()
    .select({ id, firstPlayer, secondPlayer, event, date })
    .from(games)
    .where(isNull(games.searchText));
  for (const row of rows)
    await database()
      .update(games)
      .set({ searchText: searchTextOf(row.firstPlayer, row.secondPlayer, row.event, row.date) })
      .where(eq(games.id, row.id));
}
