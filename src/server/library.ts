import {
  and,
  arrayContains,
  eq,
  inArray,
  isNotNull,
  isNull,
  like,
  or,
  sql,
  type SQL,
  type SQLWrapper,
} from 'drizzle-orm';
import { PgDialect } from 'drizzle-orm/pg-core';
import { Written } from '@/contract/contract';
import { CHOICE_NAMES, RANGES, readSpan, type GameFilter } from '@/contract/game-filter';
import { USUAL_ORDER, type GameSummary, type Order } from '@/contract/library';
import { folded } from '@/core/game/folded';
import { SIDE_FIGURES } from '@/core/review/game-figures';
import type { Score } from '@/core/game/score-share';
import { database } from './database';
import { factsFor } from './game-facts';
import type { Owner, OwnerRef } from './owner';
import { ownSideSql } from './own-side';
import { collectionGames, games } from './schema';

/** A filter, or games one by one. */
export interface GameChoice extends GameFilter {
  ids?: readonly number[] | undefined;
}

/** The owner's games, but those that were deleted. */
export const presentGames = (owner: OwnerRef): SQL =>
  and(eq(games.ownerId, owner.id), isNull(games.deletedAt))!;

/** The owner's games that a filter holds. */
export function gamesOf(owner: Owner, filter: GameChoice): SQL {
  const facts = factsFor(owner);
  const conditions: (SQL | undefined)[] = [
    filter.deleted === undefined
      ? presentGames(owner)
      : and(
          eq(games.ownerId, owner.id),
          filter.deleted === 'yes'
            ? isNotNull(games.deletedAt)
            : eq(games.deletedAt, new Date(filter.deleted)),
        ),
    filter.kind && eq(games.kind, filter.kind),
    filter.ids && inArray(games.id, [...filter.ids]),
    filter.label === undefined ? undefined : arrayContains(games.labels, [filter.label]),
  ];
  for (const player of [filter.player, filter.against])
    if (player !== undefined)
      conditions.push(or(eq(games.firstPlayerId, player), eq(games.secondPlayerId, player)));
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
  if (filter.date !== undefined) {
    const { from, to } = readSpan(filter.date);
    if (from !== null) conditions.push(sql`${games.date} >= ${from}`);
    if (to !== null) conditions.push(sql`left(${games.date}, ${to.length}::integer) <= ${to}`);
  }
  for (const name of CHOICE_NAMES) {
    const values = filter[name]?.split(',');
    if (values)
      conditions.push(
        sql`${facts[name]} in (${sql.join(
          values.map((value) => sql`${value}`),
          sql`, `,
        )})`,
      );
  }
  for (const name of RANGES) {
    const span = filter[name];
    if (span === undefined) continue;
    const { from, to } = readSpan(span);
    if (from !== null) conditions.push(sql`${facts[name]} >= ${from}::real`);
    if (to !== null) conditions.push(sql`${facts[name]} <= ${to}::real`);
  }
  for (const word of folded(filter.text ?? '')
    .split(/\s+/)
    .filter(Boolean)) {
    const pattern = `%${word.replace(/[\\%_]/g, '\\$&')}%`;
    conditions.push(or(like(games.searchText, pattern), like(games.words, pattern)));
  }
  return and(...conditions)!;
}

/** The latest first among those that an order does not tell apart. */
const LATEST = sql`coalesce(${games.date}, '') desc, ${games.id} desc`;
const EARLIEST = sql`${games.date} asc nulls last, ${games.id} asc`;

function orderSql(owner: Owner, { by, way }: Order): SQL {
  // the latest first an index has them
  if (by === 'date') return way === 'down' ? LATEST : EARLIEST;
  const fact = factsFor(owner)[by];
  return sql`${fact} ${way === 'down' ? sql`desc` : sql`asc`} nulls last, ${LATEST}`;
}

/** A stretch of an order. */
export interface Stretch {
  order?: Order;
  from?: number;
  count: number;
}

/** A stretch of the owner's games, written as the library shows them; one statement, which leaves no row to be gone through here. */
export async function writtenGames(
  owner: Owner,
  filter: GameFilter,
  { order = USUAL_ORDER, from = 0, count }: Stretch,
): Promise<Written<GameSummary[]>> {
  // ids alone are sorted: rows are too wide for that
  const { rows } = await database().execute<{ written: string }>(sql`
    with wanted as materialized (
      select id, own_side, row_number() over () as place from (
        select ${games.id}, ${ownSideSql(owner)} as own_side from ${games} where ${gamesOf(owner, filter)}
        order by ${orderSql(owner, order)} limit ${count} offset ${from}
      ) as stretch
    )
    select coalesce(json_agg(${summarySql()} order by wanted.place), '[]')::text as written
    from wanted join ${games} on ${games.id} = wanted.id`);
  return new Written(rows[0]!.written);
}

/** The same as values. */
export const listGames = async (
  owner: Owner,
  filter: GameFilter,
  stretch: Stretch,
): Promise<GameSummary[]> => (await writtenGames(owner, filter, stretch)).value();

const pair = (first: SQLWrapper, second: SQLWrapper): SQL =>
  sql`json_build_array(${first}, ${second})`;

const object = (fields: Readonly<Record<string, SQLWrapper>>): SQL =>
  sql`json_build_object(${sql.join(
    Object.entries(fields).map(([name, value]) => sql`${sql.raw(`'${name}'`)}, ${value}`),
    sql`, `,
  )})`;

const figuresSql = (stored: SQLWrapper): SQL =>
  object(
    Object.fromEntries(
      SIDE_FIGURES.map((name, index) => [name, sql`${stored}[${sql.raw(`${index + 1}`)}]`]),
    ),
  );

let written: SQL | null = null;
/** A game of the owner's as the library shows it; put together once, since it is the same of all. */
const summarySql = (): SQL =>
  (written ??= sql.raw(new PgDialect().sqlToQuery(object(SUMMARY)).sql));

const SUMMARY = {
  id: games.id,
  kind: games.kind,
  players: pair(games.firstPlayer, games.secondPlayer),
  ratings: pair(games.firstRating, games.secondRating),
  result: games.result,
  end: games.endReason,
  date: games.date,
  time: games.time,
  event: games.event,
  round: games.round,
  plies: games.plies,
  timeControl: games.timeControl,
  timeClass: games.timeClass,
  rated: games.rated,
  handicap: games.handicap,
  ownSide: sql`wanted.own_side`,
  labels: games.labels,
  annotated: games.annotated,
  figures: sql`case when ${games.firstFigures} is not null and ${games.secondFigures} is not null
      then ${pair(figuresSql(games.firstFigures), figuresSql(games.secondFigures))} end`,
  trend: games.trend,
  turningPoints: games.turningPoints,
  depth: games.depth,
  added: games.createdAt,
  lastOpened: games.openedAt,
} satisfies Record<keyof GameSummary, SQLWrapper>;

/** What a filter holds, in figures. */
export interface LibraryStrip {
  games: number;
  /** The owner's results. */
  score: Score;
  /** Mean of the owner's accuracy, and of how many games; null of none. */
  accuracy: { mean: number; error: number | null; games: number } | null;
  /** Gone over, and annotated. */
  swept: number;
  annotated: number;
}

export async function stripOf(owner: Owner, filter: GameFilter): Promise<LibraryStrip> {
  const { outcome, accuracy } = factsFor(owner);
  const [row] = await database()
    .select({
      games: sql<number>`count(*)::integer`,
      won: sql<number>`(count(*) filter (where outcome = 'won'))::integer`,
      drawn: sql<number>`(count(*) filter (where outcome = 'drawn'))::integer`,
      lost: sql<number>`(count(*) filter (where outcome = 'lost'))::integer`,
      mean: sql<number | null>`avg(accuracy)::real`,
      deviation: sql<number | null>`stddev_samp(accuracy)::real`,
      rated: sql<number>`count(accuracy)::integer`,
      swept: sql<number>`count(depth)::integer`,
      annotated: sql<number>`(count(*) filter (where annotated))::integer`,
    })
    .from(
      database()
        .select({
          outcome: outcome.as('outcome'),
          accuracy: accuracy.as('accuracy'),
          depth: games.depth,
          annotated: games.annotated,
        })
        .from(games)
        .where(gamesOf(owner, filter))
        .as('held'),
    );
  const { won, drawn, lost, mean, deviation, rated, ...counts } = row!;
  return {
    games: counts.games,
    swept: counts.swept,
    annotated: counts.annotated,
    score: { won, drawn, lost },
    accuracy:
      mean === null
        ? null
        : { mean, error: deviation === null ? null : deviation / Math.sqrt(rated), games: rated },
  };
}

/** Keeps that the owner has had a game's Desk before them. */
export async function noteOpened(owner: OwnerRef, id: number): Promise<void> {
  await database()
    .update(games)
    .set({ openedAt: sql`now()` })
    .where(and(presentGames(owner), eq(games.id, id)));
}

/** By what the owner finds games again, and how many there are of each. */
export async function listLabels(owner: OwnerRef): Promise<{ label: string; games: number }[]> {
  const { rows } = await database().execute<{ label: string; games: number }>(
    sql`select label, count(*)::integer as games from ${games}, unnest(labels) as label
      where ${presentGames(owner)} and labels <> '{}' group by label order by label`,
  );
  return rows;
}

/** Whether any game was ever stored: who has deleted the demo games does not want them back. */
export async function everHadGames(): Promise<boolean> {
  const { rows } = await database().execute<{ is_called: boolean }>(
    sql`select is_called from games_id_seq`,
  );
  return rows[0]?.is_called === true;
}

export const countGames = (owner: OwnerRef): Promise<number> =>
  database().$count(games, presentGames(owner));
