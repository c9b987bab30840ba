import { and, desc, eq, inArray, isNotNull, like, or, sql } from 'drizzle-orm';
import {
  readBaseFilter,
  type BASE_ORDERS,
  type BaseAnswer,
  type BaseFilterQuery,
  type BaseGameRow,
  type Onward,
} from '@/contract/bases';
import { reversedFilter, suits, type BaseFilter } from '@/core/base/facts';
import { figuresOf, type Tally } from '@/core/base/move-figures';
import { unpackMoves } from '@/core/base/packed-moves';
import { nameKey } from '@/core/game/player-name';
import type { GameRecord } from '@/core/game/record';
import {
  otherSide,
  PositionError,
  type GameKind,
  type Position,
  type Ruleset,
  type Side,
} from '@/core/game/ruleset';
import { reversed, reversedMove } from '@/core/game/reversed';
import { plusScore } from '@/core/game/score-share';
import type { Move } from '@/core/game/move';
import { ROOT } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';
import { patternOf, playedGames } from './chosen-games';
import { talliesAt, usualIn, type Wanted } from './base-tallies';
import { database, planned } from './database';
import { recordOf } from './games';
import { loadBase, playedAt, type LoadedBase } from './loaded-base';
import type { Owner, OwnerRef } from './owner';
import { ownSideSql } from './own-side';
import { RecentWork } from './recent';
import { baseGames, basePlayers, bases, evaluations } from './schema';

/** How games meet the position that is asked about: as it is, or with colours reversed. */
interface View {
  position: Position;
  toMove: Side;
  /** Which of them count. */
  filter: BaseFilter;
  /** A move here as one there, and the other way round. */
  turned(move: Move): Move;
}

/** A base that is asked about a position of its game; the view of the position as it is comes first. */
interface Asked {
  base: LoadedBase;
  ruleset: Ruleset;
  views: readonly [View, ...View[]];
}

/** Refused: there is no such base of the owner's, or the text is no position of its game. */
export type BaseRefusal = 'missing' | 'unfit';

async function open(
  owner: OwnerRef,
  id: number,
  text: string,
  query: BaseFilterQuery,
): Promise<Asked | BaseRefusal> {
  const [row] = await baseAsItStands().execute({ id, ownerId: owner.id });
  if (!row) return 'missing';
  const ruleset = rulesetOf(row.kind);
  try {
    const position = ruleset.start(text);
    const base = await loadBase(id, row.version, row.indexed);
    return {
      base,
      ruleset,
      views: viewsOf(ruleset, position, await filterIn(owner, id, query), query),
    };
  } catch (error) {
    if (error instanceof PositionError) return 'unfit';
    throw error;
  }
}

/** Asked with every step on a Desk. */
const baseAsItStands = planned(() =>
  database()
    .select({ kind: bases.kind, version: bases.version, indexed: bases.indexed })
    .from(bases)
    .where(and(eq(bases.ownerId, sql.placeholder('ownerId')), eq(bases.id, sql.placeholder('id'))))
    .prepare('a base as it stands'),
);

function viewsOf(
  ruleset: Ruleset,
  position: Position,
  filter: BaseFilter,
  query: BaseFilterQuery,
): Asked['views'] {
  const toMove = ruleset.side(position);
  const asItIs = { position, toMove, filter, turned: (move: Move) => move };
  if (!query.reversed) return [asItIs];
  const other = {
    position: reversed(ruleset, position),
    toMove: otherSide(toMove),
    filter: reversedFilter(filter),
    turned: (move: Move) => reversedMove(ruleset, move),
  };
  return [asItIs, other];
}

/** What is wanted of a position as it is met in a view. Keys are of 64 bits: what another position of the same key had played can't be played here. */
const wantedAt = (ruleset: Ruleset, { toMove, filter }: View, position: Position): Wanted => ({
  key: ruleset.key(position),
  toMove,
  filter,
  legal: (played) => played.filter(({ move }) => move === null || ruleset.isLegal(position, move)),
});

/** The tallies of the position in all views and segments, told as moves here. */
async function talliesOf({ base, ruleset, views }: Asked): Promise<Tally[]> {
  const wanted = views.map((view) => wantedAt(ruleset, view, view.position));
  const found = await talliesAt(base, wanted);
  return views.flatMap(({ turned }, index) =>
    found[index]!.map(({ games, moves }) => ({
      games,
      moves: moves.map(({ move, sums }) => ({ move: move && turned(move), sums })),
    })),
  );
}

/** A filter as it is meant in one base: a player of the owner's library is meant under all names that they have there. */
async function filterIn(owner: OwnerRef, id: number, query: BaseFilterQuery): Promise<BaseFilter> {
  const filter = readBaseFilter(query);
  if (query.player === undefined) return filter;
  const key = nameKey(query.player);
  const others = sql`select other.key from player_names as one join player_names as other using (player_id)
    where one.owner_id = ${owner.id} and one.key = ${key}`;
  const players = await database()
    .select({ id: basePlayers.id })
    .from(basePlayers)
    .where(
      and(
        eq(basePlayers.baseId, id),
        or(eq(basePlayers.key, key), sql`${basePlayers.key} in (${others})`),
      ),
    )
    .orderBy(basePlayers.id);
  return { ...filter, players: players.map((player) => player.id) };
}

/** As many names as there are to choose from. */
const MOST_NAMES = 20;

/** Players of a base whose names hold some words. */
export async function findBasePlayers(id: number, name: string): Promise<string[]> {
  const words = nameKey(name).split(' ');
  const rows = await database()
    .select({ name: basePlayers.name })
    .from(basePlayers)
    .where(
      and(
        eq(basePlayers.baseId, id),
        ...words.map((word) => like(basePlayers.key, patternOf(word))),
      ),
    )
    .orderBy(basePlayers.key)
    .limit(MOST_NAMES);
  return rows.map((row) => row.name);
}

/** Answers that one process keeps: those that many games have part in are asked for most. */
const MOST_ANSWERS = 5000;
const store = globalThis as { bektraBaseAnswers?: RecentWork<string, BaseAnswer> };
const answers = (): RecentWork<string, BaseAnswer> =>
  (store.bektraBaseAnswers ??= new RecentWork(MOST_ANSWERS));

/** What was played at a position by the games that suit a filter. */
export async function askBase(
  owner: OwnerRef,
  id: number,
  text: string,
  query: BaseFilterQuery,
): Promise<BaseAnswer | BaseRefusal> {
  const asked = await open(owner, id, text, query);
  if (typeof asked === 'string') return asked;
  const { base, ruleset, views } = asked;
  const filters = JSON.stringify(views.map(({ filter }) => filter));
  const name = `${id} ${base.contents} ${ruleset.key(views[0].position)} ${filters}`;
  return answers().get(name, () => answerTo(asked));
}

async function answerTo(asked: Asked): Promise<BaseAnswer> {
  const { base, ruleset, views } = asked;
  const tallies = await talliesOf(asked);
  const moves = figuresOf(tallies).map((figures) => ({
    ...figures,
    move: figures.move === null ? null : ruleset.code(figures.move),
  }));
  return {
    games: gamesOf(tallies),
    moves,
    usual: views.map((view) => usualIn(base, view)).reduce(plusScore),
  };
}

const gamesOf = (tallies: readonly Tally[]): number =>
  tallies.reduce((sum, { games }) => sum + games, 0);

/** Where the moves at a position lead: how many games came there in any way, and what is known of it. */
export async function askOnward(
  owner: OwnerRef,
  id: number,
  text: string,
  query: BaseFilterQuery,
): Promise<Onward | BaseRefusal> {
  const asked = await open(owner, id, text, query);
  if (typeof asked === 'string') return asked;
  const { base, ruleset, views } = asked;
  const tallies = await talliesOf(asked);
  const moves = [
    ...new Set(tallies.flatMap((tally) => tally.moves.flatMap(({ move }) => move || []))),
  ];
  const after = moves.map((move) =>
    views.map((view) => ({ view, position: ruleset.play(view.position, view.turned(move)) })),
  );
  const wanted = after.flat().map(({ view, position }) => wantedAt(ruleset, view, position));
  const reached = await talliesAt(base, wanted);
  const keys = after.map(([asItIs]) => ruleset.key(asItIs!.position));
  const known = await deepest(ruleset.kind, keys);
  return moves.map((move, index) => ({
    move: ruleset.code(move),
    reached: gamesOf(reached.slice(index * views.length, (index + 1) * views.length).flat()),
    evaluation: known.get(BigInt.asIntN(64, keys[index]!)) ?? null,
  }));
}

/** The deepest evaluations that are stored of positions, whoever asked for them. */
async function deepest(
  kind: GameKind,
  keys: readonly bigint[],
): Promise<Map<bigint, NonNullable<Onward[number]['evaluation']>>> {
  if (keys.length === 0) return new Map();
  const rows = await database()
    .selectDistinctOn([evaluations.key], {
      key: evaluations.key,
      depth: evaluations.depth,
      lines: evaluations.lines,
    })
    .from(evaluations)
    .where(
      and(
        inArray(
          evaluations.key,
          keys.map((key) => BigInt.asIntN(64, key)),
        ),
        eq(evaluations.kind, kind),
        eq(evaluations.history, ''),
        eq(evaluations.onlyMove, ''),
      ),
    )
    .orderBy(evaluations.key, desc(evaluations.depth));
  return new Map(
    rows.flatMap(({ key, depth, lines: [best] }) =>
      best ? [[key, { score: best.score, depth }] as const] : [],
    ),
  );
}

/** As many games as are listed. */
const LISTED = 50;

/** Games that met a position, in an order. @param reader who asks, and has met some players; null: nobody who is signed in */
export async function listBaseGames(
  owner: OwnerRef,
  id: number,
  text: string,
  query: BaseFilterQuery,
  { move, order }: { move: string | undefined; order: (typeof BASE_ORDERS)[number] },
  reader: Owner | null,
): Promise<BaseGameRow[] | BaseRefusal> {
  const asked = await open(owner, id, text, query);
  if (typeof asked === 'string') return asked;
  const { base, ruleset, views } = asked;
  const { facts } = base;
  const wanted = views.map((view) => wantedAt(ruleset, view, view.position));
  const played = await playedAt(
    base,
    wanted.map(({ key }) => key),
  );
  const wentOn = new Map<number, Move | null>();
  for (const [index, { legal, filter, toMove }] of wanted.entries()) {
    const isWanted = suits(facts, filter, toMove);
    for (const { move: there, games } of legal(played[index]!)) {
      const way = there && views[index]!.turned(there);
      if (move !== undefined && (way === null || ruleset.code(way) !== move)) continue;
      for (const game of games) if (isWanted(game)) wentOn.set(game, way);
    }
  }
  if (order === 'opponents') {
    const met = reader ? await metIn(reader, id) : new Set<number>();
    const isMet = (game: number): boolean => facts.players.some((side) => met.has(side[game]! - 1));
    for (const game of wentOn.keys()) if (!isMet(game)) wentOn.delete(game);
  }
  const rank = (game: number): number =>
    order === 'rating' ? facts.ratings[0][game]! + facts.ratings[1][game]! : facts.years[game]!;
  // within a year, those that came last are taken first
  const numbers = [...wentOn.keys()].sort((a, b) => rank(b) - rank(a) || b - a).slice(0, LISTED);
  const rows = await gameRows(id, numbers);
  return numbers.flatMap((number) => {
    const row = rows.get(number);
    const way = wentOn.get(number);
    return row ? [{ ...row, move: way ? ruleset.code(way) : null }] : [];
  });
}

/** Players of a base, by their numbers, against whom somebody has played in games of their library. */
async function metIn(reader: Owner, id: number): Promise<Set<number>> {
  const { rows } = await database().execute<{ id: string }>(
    sql`select base_players.id from base_players
      join player_names using (key)
      join (
        select distinct case ${ownSideSql(reader)} when 0 then second_player_id when 1 then first_player_id end as player_id
        from games where ${playedGames(reader)}
      ) met using (player_id)
      where base_id = ${id} and player_names.owner_id = ${reader.id}`,
  );
  return new Set(rows.map((row) => Number(row.id)));
}

const FIRST = sql<string | null>`(select name from base_players where id = first_player_id)`;
const SECOND = sql<string | null>`(select name from base_players where id = second_player_id)`;

async function gameRows(
  id: number,
  numbers: readonly number[],
): Promise<Map<number, Omit<BaseGameRow, 'move'>>> {
  if (numbers.length === 0) return new Map();
  const rows = await database()
    .select({
      number: baseGames.number,
      gameId: baseGames.gameId,
      first: FIRST,
      second: SECOND,
      firstRating: baseGames.firstRating,
      secondRating: baseGames.secondRating,
      result: baseGames.result,
      date: baseGames.date,
      event: baseGames.event,
    })
    .from(baseGames)
    .where(and(eq(baseGames.baseId, id), inArray(baseGames.number, [...numbers])));
  return new Map(
    rows.map(({ first, second, firstRating, secondRating, ...row }) => [
      row.number,
      { ...row, players: [first, second], ratings: [firstRating, secondRating] },
    ]),
  );
}

/** A game of a base as it was taken in; null where there is none, or no longer. */
export async function findBaseGame(
  owner: OwnerRef,
  id: number,
  number: number,
): Promise<GameRecord | null> {
  const [row] = await database()
    .select({
      kind: bases.kind,
      start: baseGames.start,
      moves: baseGames.moves,
      tags: baseGames.tags,
      result: baseGames.result,
    })
    .from(baseGames)
    .innerJoin(bases, eq(bases.id, baseGames.baseId))
    .where(
      and(
        eq(bases.ownerId, owner.id),
        eq(baseGames.baseId, id),
        eq(baseGames.number, number),
        isNotNull(baseGames.fingerprint),
      ),
    );
  if (!row) return null;
  const { kind, start, moves, tags, result } = row;
  const ruleset = rulesetOf(kind);
  const root = { id: ROOT, parent: null, move: '' };
  return recordOf({
    kind,
    start: start ?? ruleset.startText,
    nodes: [root, ...unpackMoves(moves).map((move) => ruleset.code(move))],
    tags,
    result,
    endReason: null,
  });
}
