import * as z from 'zod';
import { END_REASONS, RESULTS } from '@/core/game/result';
import { LIMITS } from '@/core/game/problem';
import { GAME_KINDS } from '@/core/game/ruleset';
import { TIME_CLASSES } from '@/core/game/time-class';
import { SIDE_FIGURES, type SideFigures } from '@/core/review/game-figures';
import { TRENDS } from '@/core/review/summary';
import { contract } from './contract';
import {
  CHOICE_NAMES,
  filterQuery,
  gameChoiceSchema,
  label,
  RANGES,
  type GameFilter,
} from './game-filter';
import { id, side } from './shapes';
import { words } from './words';

/** What the library shows of games, and can be ordered by. */
export const COLUMNS = [
  'date',
  'kind',
  'players',
  'event',
  'opening',
  'timeControl',
  'labels',
  'added',
  'lastOpened',
  ...CHOICE_NAMES.filter((name) => name !== 'opened' && name !== 'swept'),
  ...RANGES,
] as const;
export type Column = (typeof COLUMNS)[number];

/** What it shows besides, asked for games in sight: where they left a base, and what the owner had prepared. */
export const LEFT_COLUMNS = ['leftBase', 'leftPreparation'] as const;
export type ShownColumn = Column | (typeof LEFT_COLUMNS)[number];

export const isOrdered = (column: ShownColumn): column is Column =>
  (COLUMNS as readonly ShownColumn[]).includes(column);

/** Columns that are shown unless others are chosen. */
export const USUAL_COLUMNS: readonly ShownColumn[] = [
  'date',
  'kind',
  'players',
  'outcome',
  'accuracy',
  'worst',
  'trend',
  'event',
  'moves',
  'labels',
];

/** By what the library is ordered, and which way; games of which it is not known come last either way. */
export interface Order {
  by: Column;
  way: 'up' | 'down';
}

export const USUAL_ORDER: Order = { by: 'date', way: 'down' };

/** An order as addresses have it: the column, after `-` where the greatest comes first. */
export const orderText = ({ by, way }: Order): string => (way === 'up' ? by : `-${by}`);

/** The same read; the usual order where it is not understood. */
export function readOrder(text: unknown): Order {
  if (typeof text !== 'string') return USUAL_ORDER;
  const by = COLUMNS.find((column) => column === text.replace(/^-/, ''));
  return by ? { by, way: text.startsWith('-') ? 'down' : 'up' } : USUAL_ORDER;
}

/** Where the library shows the games of a filter. @param grant by which somebody else's are looked at */
export function libraryHref(
  filter: GameFilter,
  order: Order = USUAL_ORDER,
  grant: number | null = null,
): string {
  const place = grant === null ? '/' : `/given/${grant}`;
  const query = listQuery(filter, order).toString();
  return query === '' ? place : `${place}?${query}`;
}

/** A filter and an order as addresses have them; the usual order goes without saying. */
export function listQuery(filter: GameFilter, order: Order): URLSearchParams {
  const query = filterQuery(filter);
  const sort = orderText(order);
  if (sort !== orderText(USUAL_ORDER)) query.set('sort', sort);
  return query;
}

const pair = <T>(one: z.ZodType<T>) => z.tuple([one, one]);
const sideFigures = z.object(
  Object.fromEntries(SIDE_FIGURES.map((name) => [name, z.number().nullable()])),
) as unknown as z.ZodType<SideFigures>;

/** What the library shows of a game. */
export const gameSummarySchema = z.object({
  id,
  kind: z.enum(GAME_KINDS),
  players: pair(z.string().nullable()),
  ratings: pair(z.number().nullable()),
  result: z.enum(RESULTS),
  end: z.enum(END_REASONS).nullable(),
  date: z.string().nullable(),
  time: z.string().nullable(),
  event: z.string().nullable(),
  /** As `openingText` writes it. */
  opening: z.string().nullable(),
  round: z.string().nullable(),
  plies: z.number(),
  timeControl: z.string().nullable(),
  timeClass: z.enum(TIME_CLASSES).nullable(),
  rated: z.boolean().nullable(),
  handicap: z.string().nullable(),
  /** The owner's; null where neither they nor the names tell. */
  ownSide: side.nullable(),
  labels: z.array(z.string()),
  annotated: z.boolean(),
  /** Of either side, as the last complete sweep says; null without any. */
  figures: pair(sideFigures).nullable(),
  trend: z.enum(TRENDS).nullable(),
  turningPoints: z.number().nullable(),
  depth: z.number().nullable(),
  /** ISO 8601. */
  added: z.string(),
  lastOpened: z.string().nullable(),
});
export type GameSummary = z.infer<typeof gameSummarySchema>;

/** Games of the library that are asked for together. */
export const STRETCH = 100;
/** As many as may be asked for at once. */
export const MOST_ROWS = 200;

const stretch = {
  query: z.looseObject({
    from: z.coerce.number().int().min(0).max(10_000_000).default(0),
    count: z.coerce.number().int().min(1).max(MOST_ROWS).default(MOST_ROWS),
    sort: z.string().max(40).optional(),
  }),
  answer: z.object({ games: z.array(gameSummarySchema) }),
};

/** A stretch of the games that a filter of the address holds, in the order that it names. */
export const listGames = contract('GET', '/api/games', stretch);

/** The same of the games that somebody else has given one. */
export const listGiven = contract('GET', '/api/grants/[id]/games', { needs: 'read', ...stretch });

/** Of all games those of a player, from their side. */
export const gamesAsTheirs = ({ id, isSelf }: { id: number; isSelf: boolean }): GameFilter => ({
  player: id,
  viewpoint: isSelf ? undefined : 'player',
});

/** A list of games: what it holds, in which order, and by which grant, where they are somebody else's. */
export interface GameList {
  filter: GameFilter;
  order: Order;
  grant: number | null;
}

/** Whether what is one side's is the reader's: neither somebody else's library, nor seen from another player's side. */
export const isOwnSide = ({ filter, grant }: GameList): boolean =>
  grant === null && filter.viewpoint === undefined;

/** What of their library is the owner's own business: how they find their games again, and when they had them before them. */
const PRIVATE_COLUMNS: readonly ShownColumn[] = ['labels', 'lastOpened', ...LEFT_COLUMNS];
const PRIVATE_FILTERS = { label: undefined, opened: undefined, deleted: undefined };

/** Columns without those that are shown to the owner alone. */
export const givenColumns = (columns: readonly ShownColumn[]): readonly ShownColumn[] =>
  columns.filter((column) => !PRIVATE_COLUMNS.includes(column));

/** A filter and an order as far as they are somebody else's to choose. @param collection that they have been given; null: all games */
export const givenFilter = (filter: GameFilter, collection: number | null): GameFilter => ({
  ...filter,
  ...PRIVATE_FILTERS,
  collection: collection ?? undefined,
});
export const givenOrder = (order: Order): Order =>
  PRIVATE_COLUMNS.includes(order.by) ? USUAL_ORDER : order;

/** The position before a move of the main line, for a glimpse of it. */
export const glimpseMoment = contract('GET', '/api/games/[id]/moment', {
  needs: 'read',
  /** The move, from 1. */
  query: z.object({ ply: z.coerce.number().int().min(1).max(LIMITS.plies) }),
  answer: z.object({
    /** FEN or SFEN. */
    position: z.string(),
    /** The move itself as people write it. */
    move: z.string(),
    /** In UCI or USI, the move before it. */
    last: z.string().nullable(),
  }),
});

/** Does something with many games; answers with how many they were. */
export const changeGames = contract('PUT', '/api/games', {
  body: z.object({
    games: gameChoiceSchema,
    change: z.discriminatedUnion('do', [
      z.object({ do: z.literal(['label', 'unlabel']), label }),
      z.object({ do: z.literal(['put', 'takeOut']), collection: id }),
      z.object({ do: z.literal(['delete', 'restore']) }),
    ]),
  }),
  /** `deleted`: when they were, by which they are told from those that were deleted at other times. */
  answer: z.object({ games: z.number(), deleted: z.iso.datetime().nullable() }),
});

export const savedFilterSchema = z.object({ id, name: z.string(), query: z.string() });
export type SavedFilter = z.infer<typeof savedFilterSchema>;

/** Gives a filter a name, which is taken from the filter that had it. */
export const saveFilter = contract('POST', '/api/filters', {
  body: z.object({
    name: words(60),
    query: z.string().max(2000),
  }),
  answer: savedFilterSchema,
  status: 201,
});

export const removeFilter = contract('DELETE', '/api/filters/[id]');
