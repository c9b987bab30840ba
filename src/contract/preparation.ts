import * as z from 'zod';
import { RESULTS } from '@/core/game/result';
import { GAME_KINDS } from '@/core/game/ruleset';
import { recordSchema, scoreSchema } from '@/core/game/serial';
import { VERDICTS } from '@/core/review/verdict';
import { contract } from './contract';
import { numberSpan } from './game-filter';
import { ASK_STATES } from './review';
import { codes, id, side, sideWord } from './shapes';
import { words } from './words';

const kind = z.enum(GAME_KINDS);
const name = words(60);
/** Which preparation, as an address has it. */
const which = z.object({ kind, side: sideWord });
export type WhichPreparation = z.infer<typeof which>;

export const sheetSchema = z.object({
  /** Of the game as which it is opened on the Desk. */
  id,
  name: z.string().nullable(),
  lines: z.number(),
  moves: z.number(),
  /** In which it goes out as a file; its Desk offers others. */
  format: z.string(),
  /** Where its latest sweep is; null: its lines have not been gone over. */
  swept: z.enum(ASK_STATES).nullable(),
});
export type Sheet = z.infer<typeof sheetSchema>;

export const listSheets = contract('GET', '/api/preparation', {
  query: which,
  answer: z.array(sheetSchema),
});

const added = z.object({
  id,
  /** Half moves that were not there before. */
  added: z.number(),
});

/**
 * Puts lines into a preparation: into a sheet, or the one with which they have most in common; a new one where there is none, or a name
 * is given. Refused with 404 without such a sheet, 422 where they begin otherwise than it, or it gets too large, 429 with too many sheets.
 */
export const prepareLines = contract('POST', '/api/preparation', {
  query: which,
  body: z.object({
    lines: recordSchema,
    sheet: z.number().int().positive().optional(),
    name: name.optional(),
  }),
  answer: added,
  status: 201,
});

/** Puts lines of the reader's own games into a preparation, those that came up and did well often enough; 422 `none` where there are none. */
export const prepareFromGames = contract('POST', '/api/preparation/own', {
  query: which,
  body: z.object({
    games: z.number().int().min(1).max(1000),
    /** Points of 100. */
    share: z.number().min(0).max(100),
    plies: z.number().int().min(2).max(60),
  }),
  answer: added,
  status: 201,
});

/** Takes a sheet away; it can be brought back for a month. */
export const removeSheet = contract('DELETE', '/api/preparation/[id]', { needs: 'own' });
export const restoreSheet = contract('PUT', '/api/preparation/[id]');

/** What the page of preparation shows, as its address has it: by the games of which base, against whom. */
const pageQuery = which.extend({
  base: z.coerce.number().int().positive().optional(),
  /** Of the opponent. */
  rating: numberSpan.optional(),
});
export type PreparationQuery = z.infer<typeof pageQuery>;

/** What can't be read of an address is left out. */
export function readPreparationQuery(query: Readonly<Record<string, unknown>>): PreparationQuery {
  const { kind, side, base, rating: opponents } = pageQuery.shape;
  return {
    kind: kind.catch('chess').parse(query.kind),
    side: side.catch('first').parse(query.side),
    base: base.catch(undefined).parse(query.base),
    rating: opponents.catch(undefined).parse(query.rating),
  };
}

/** The address of that page. */
export const preparationHref = (query: PreparationQuery): string => {
  const given = Object.entries(query).filter(([, value]) => value !== undefined);
  return `/preparation?${new URLSearchParams(given.map(([name, value]) => [name, String(value)]))}`;
};

const place = z.object({ sheet: id, node: z.number() });

export const stretchSchema = place.extend({
  depth: z.number(),
  /** Before its moves. */
  position: z.string(),
  moves: codes,
  nodes: z.array(z.number()),
  /** In how many of 100 games its first move is to be expected; null: not known. */
  expected: z.number().nullable(),
});
export type PreparedStretch = z.infer<typeof stretchSchema>;

export const gapSchema = z.object({
  kind: z.enum(['reply', 'end']),
  at: place,
  /** From the start to the position. */
  start: z.string(),
  way: codes,
  /** What comes there, and most where a line ends; null where the base knows of nothing. */
  move: z.string().nullable(),
  games: z.number(),
  of: z.number(),
  /** In how many of 100 games. */
  expected: z.number(),
});
export type PreparationGap = z.infer<typeof gapSchema>;

/** What a preparation holds, and by the games of a base, how often it is to be expected and what it lacks. */
export const showPreparation = contract('GET', '/api/preparation/tree', {
  query: pageQuery,
  answer: z.object({ stretches: z.array(stretchSchema), gaps: z.array(gapSchema) }),
});

const parting = {
  /** The half move that the preparation does not hold, from 1; null: it holds the game to its end. */
  ply: z.number().nullable(),
  by: z.enum(['self', 'opponent', 'end']).nullable(),
  /** What it would have gone on with. */
  prepared: codes,
};

export const checkedGameSchema = z.object({
  id,
  players: z.tuple([z.string().nullable(), z.string().nullable()]),
  result: z.enum(RESULTS),
  date: z.string().nullable(),
  ...parting,
  /** Before the move that left it, or at the end; and that move, or the last. */
  position: z.string(),
  move: z.string().nullable(),
  node: z.number(),
});
export type CheckedGame = z.infer<typeof checkedGameSchema>;

/** Where the reader's latest games of a side left their preparation; those that begin otherwise are left out. */
export const checkGames = contract('GET', '/api/preparation/games', {
  query: which,
  answer: z.array(checkedGameSchema),
});

export const partingSchema = z.object({ side, ...parting });
export type GameParting = z.infer<typeof partingSchema>;

/** Where a game left the reader's preparations, of either side that they have any for. */
export const listPartings = contract('GET', '/api/games/[id]/preparation', {
  needs: 'read',
  answer: z.array(partingSchema),
});

export const preparedHereSchema = z.object({
  side,
  /** What is to be played, or what is reckoned with. */
  moves: codes,
  at: place,
});
export type PreparedHere = z.infer<typeof preparedHereSchema>;

/** What the reader's preparations hold of a position; refused with 422 where it is none. */
export const findPrepared = contract('GET', '/api/preparation/position', {
  query: z.object({ kind, position: z.string().min(1).max(200) }),
  answer: z.array(preparedHereSchema),
});

export const doubtSchema = z.object({
  at: place,
  position: z.string(),
  move: z.string(),
  verdict: z.enum(VERDICTS),
  /** Chance points. */
  loss: z.number(),
  score: scoreSchema,
  better: codes,
});
export type Doubt = z.infer<typeof doubtSchema>;

/** Own moves of a preparation that sweeps of its sheets call errors, the largest loss first. */
export const listDoubts = contract('GET', '/api/preparation/doubts', {
  query: which,
  answer: z.array(doubtSchema),
});
