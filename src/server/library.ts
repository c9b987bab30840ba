import { and, eq, like, sql, type SQL, type SQLWrapper } from 'drizzle-orm';
import { PgDialect } from 'drizzle-orm/pg-core';
import { Written } from '@/contract/contract';
import type { GameFilter } from '@/contract/game-filter';
import { USUAL_ORDER, type GameSummary, type Order } from '@/contract/library';
import type { Score } from '@/core/game/score-share';
import { SIDE_FIGURES } from '@/core/review/game-figures';
import { patternOf, presentGames } from './chosen-games';
import { meanAccuracy, type MeanAccuracy } from '@/core/review/peers';
import { database, pool } from './database';
import { libraryOf, wordsOf, type Condition, type LibraryIndex } from './library-index';
import { ownSideSql, reviewing } from './own-side';
import type { Owner, OwnerRef } from './owner';
import { games } from './schema';

/** A stretch of an order. */
export interface Stretch {
  order?: Order;
  from?: number;
  count: number;
}

/** Which games a stretch of the owner's consists of. */
export async function listIds(
  owner: Owner,
  filter: GameFilter,
  { order = USUAL_ORDER, from = 0, count }: Stretch,
): Promise<number[]> {
  const { index, slots } = await held(owner, filter, order);
  return Array.from(slots.subarray(from, from + count), (slot) => index.idAt(slot));
}

/** A stretch of the owner's games, written as the library shows them. */
export async function writtenGames(
  owner: Owner,
  filter: GameFilter,
  stretch: Stretch,
): Promise<Written<GameSummary[]>> {
  const ids = await listIds(owner, filter, stretch);
  const seen = reviewing(owner, filter);
  const { sql: text, params } = new PgDialect().sqlToQuery(sql`
    with wanted as (
      select games.id, ${ownSideSql(seen)} as own_side, place
      from unnest(${sql.param(`{${ids.join(',')}}`)}::bigint[]) with ordinality as listed (id, place)
      join games using (id)
    )
    select coalesce(json_agg(${summarySql()} order by wanted.place), '[]')::text as written
    from wanted join ${games} on ${games.id} = wanted.id and ${games.ownerId} = ${owner.id}`);
  // by its name it is planned once, which takes longer than to run it
  const name = seen.isOther ? 'written games of another' : 'written games';
  const asked = { name, text, values: params };
  const { rows } = await pool().query<{ written: string }>(asked);
  return new Written(rows[0]!.written);
}

/** The games of a filter in an order, as the owner's index has them. */
async function held(
  owner: Owner,
  filter: GameFilter,
  order: Order,
): Promise<{ index: LibraryIndex; slots: Int32Array }> {
  const index = await libraryOf(reviewing(owner, filter));
  const among: Condition[] = [];
  const { collection } = filter;
  if (collection !== undefined) {
    const own = await idsWhere(
      sql`select game_id as id from collection_games where collection_id = ${collection}`,
    );
    among.push((id) => own.has(id));
  }
  /** Words that nobody has written in a game. */
  const unwritten: string[] = [];
  for (const word of wordsOf(filter.text)) {
    // what was written is long: it stays in the database
    const written = await idsWhere(
      sql`select id from games where ${games.ownerId} = ${owner.id} and ${games.words} is not null
        and ${like(games.words, patternOf(word))}`,
    );
    if (written.size === 0) {
      unwritten.push(word);
      continue;
    }
    const isNamed = index.naming(word);
    among.push((id, slot) => isNamed(slot) || written.has(id));
  }
  if (unwritten.length > 0) {
    const areNamed = index.naming(...unwritten);
    among.push((_, slot) => areNamed(slot));
  }
  return { index, slots: index.find(filter, order, among) };
}

async function idsWhere(query: SQL): Promise<ReadonlySet<number>> {
  const { rows } = await database().execute<{ id: string }>(query);
  return new Set(rows.map(({ id }) => Number(id)));
}

/** The same as values. */
export const listGames = async (
  owner: Owner,
  filter: GameFilter,
  stretch: Stretch,
): Promise<GameSummary[]> => (await writtenGames(owner, filter, stretch)).value();

/** The same for somebody who has been given them: what is the owner's own business is not told. */
export const listGivenGames = async (
  owner: Owner,
  filter: GameFilter,
  stretch: Stretch,
): Promise<GameSummary[]> =>
  (await listGames(owner, filter, stretch)).map((game) => ({
    ...game,
    labels: [],
    lastOpened: null,
  }));

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
  opening: sql`nullif(${games.opening}, '')`,
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
  /** The owner's; null where no game was gone over. */
  accuracy: MeanAccuracy | null;
  /** Gone over, and annotated. */
  swept: number;
  annotated: number;
}

export async function stripOf(owner: Owner, filter: GameFilter): Promise<LibraryStrip> {
  const { index, slots } = await held(owner, filter, USUAL_ORDER);
  const outcomes = index.countBy('outcome', slots);
  const [won = 0, drawn = 0, lost = 0] = ['won', 'drawn', 'lost'].map((one) => outcomes.get(one));
  const accuracies: number[] = [];
  for (const slot of slots) {
    const accuracy = index.numberAt('accuracy', slot);
    if (!Number.isNaN(accuracy)) accuracies.push(accuracy);
  }
  return {
    games: slots.length,
    score: { won, drawn, lost },
    accuracy: meanAccuracy(accuracies),
    swept: index.countBy('swept', slots).get('yes') ?? 0,
    annotated: index.countBy('annotated', slots).get('yes') ?? 0,
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
export async function listLabels(owner: Owner): Promise<{ label: string; games: number }[]> {
  const { index, slots } = await held(owner, {}, USUAL_ORDER);
  const byLabel = new Map<string, number>();
  for (const [labels, count] of index.countBy('allLabels', slots))
    for (const label of JSON.parse(labels!) as string[])
      byLabel.set(label, (byLabel.get(label) ?? 0) + count);
  return [...byLabel]
    .map(([label, count]) => ({ label, games: count }))
    .sort((a, b) => (a.label < b.label ? -1 : 1));
}

/** Whether any game was ever stored: who has deleted the demo games does not want them back. */
export async function everHadGames(): Promise<boolean> {
  const { rows } = await database().execute<{ is_called: boolean }>(
    sql`select is_called from games_id_seq`,
  );
  return rows[0]?.is_called === true;
}

export const countGames = async (owner: Owner): Promise<number> =>
  (await held(owner, {}, USUAL_ORDER)).slots.length;
