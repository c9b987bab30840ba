import * as z from 'zod';
import { RESULTS } from '@/core/game/result';
import { GAME_KINDS } from '@/core/game/ruleset';
import { recordSchema, scoreSchema } from '@/core/game/serial';
import { TIME_CLASSES } from '@/core/game/time-class';
import type { BaseFilter } from '@/core/base/facts';
import { contract } from './contract';
import { numberSpan, readNumbers } from './game-filter';
import { id, side, sideOfWord, sideWord } from './shapes';
import { words } from './words';

const name = words(60);
const kind = z.enum(GAME_KINDS);

export const baseSchema = z.object({
  id,
  name,
  kind,
  source: z.enum(['files', 'collection', 'library']),
  /** The collection that it follows. */
  collection: z.string().nullable(),
  /** Games in it, and of those the ones that can be asked for by now. */
  games: z.number(),
  indexed: z.number(),
  /** Who has given it to whoever asks; null: it is their own. */
  givenBy: z.string().nullable(),
});
export type Base = z.infer<typeof baseSchema>;

export const listBases = contract('GET', '/api/bases', {
  query: z.object({ kind: kind.optional() }),
  answer: z.array(baseSchema),
});

/** Refused with 409 `taken` where there is one of that name, 404 without such a collection, 429 where there are too many. */
export const makeBase = contract('POST', '/api/bases', {
  body: z.object({
    name,
    kind,
    source: z.discriminatedUnion('from', [
      z.object({ from: z.literal('files') }),
      z.object({ from: z.literal('collection'), id: z.number().int().positive() }),
      z.object({ from: z.literal('library') }),
    ]),
  }),
  answer: baseSchema,
  status: 201,
});

/** The library's games stay. */
export const removeBase = contract('DELETE', '/api/bases/[id]', { needs: 'own' });

const yes = z.enum(['yes', 'no']);

/** Which games of a base count, as an address has it; what is left out does not matter. */
export const baseFilterSchema = z.object({
  /** Of the side to move. */
  rating: numberSpan.optional(),
  years: numberSpan.optional(),
  timeClass: z.enum(TIME_CLASSES).optional(),
  rated: yes.optional(),
  result: z.enum(RESULTS).optional(),
  /** A player by any of their names, and the side on which they are to have played. */
  player: words(100).optional(),
  side: sideWord.optional(),
  fromStart: yes.optional(),
  /** Games that met the position with colours reversed count too. */
  reversed: z.literal('yes').optional(),
});
export type BaseFilterQuery = z.infer<typeof baseFilterSchema>;

/** What it asks of a game, as core has it, but for the player, whose numbers differ from base to base. */
export const readBaseFilter = (query: BaseFilterQuery): Omit<BaseFilter, 'players'> => ({
  rating: query.rating === undefined ? undefined : readNumbers(query.rating),
  years: query.years === undefined ? undefined : readNumbers(query.years),
  timeClass: query.timeClass,
  rated: query.rated && query.rated === 'yes',
  result: query.result,
  side: query.side && sideOfWord(query.side),
  fromStart: query.fromStart && query.fromStart === 'yes',
});

/** FEN or SFEN. */
const position = z.string().min(1).max(200);

const score = z.object({ won: z.number(), drawn: z.number(), lost: z.number() });

export const moveFiguresSchema = z.object({
  /** In UCI or USI; null: the games ended there. */
  move: z.string().nullable(),
  games: z.number(),
  /** Of the side to move. */
  score,
  rating: z.number().nullable(),
  expected: z
    .object({ games: z.number(), share: z.number(), got: z.number(), performance: z.number() })
    .nullable(),
  years: z.tuple([z.number(), z.number()]).readonly().nullable(),
  trend: z.enum(['coming', 'going']).nullable(),
});

export const baseAnswerSchema = z.object({
  /** Of those that suit: that met the position. */
  games: z.number(),
  moves: z.array(moveFiguresSchema),
  /** What all games that suit came to for the side to move, wherever they went. */
  usual: score,
});
export type BaseAnswer = z.infer<typeof baseAnswerSchema>;
export type BaseMove = BaseAnswer['moves'][number];

/** What was played at a position. Refused with 422 where it is none of the base's game. */
export const askBase = contract('GET', '/api/bases/[id]/moves', {
  needs: 'read',
  query: baseFilterSchema.extend({ position }),
  answer: baseAnswerSchema,
});

export const onwardSchema = z.array(
  z.object({
    move: z.string(),
    /** Games that came to the position behind the move, in whatever way. */
    reached: z.number(),
    /** The deepest evaluation of it that is stored. */
    evaluation: z.object({ score: scoreSchema, depth: z.number() }).nullable(),
  }),
);
export type Onward = z.infer<typeof onwardSchema>;

/** Where the moves at a position lead: asked apart, since it takes a look at each. */
export const askOnward = contract('GET', '/api/bases/[id]/onward', {
  needs: 'read',
  query: baseFilterSchema.extend({ position }),
  answer: onwardSchema,
});

/** The last: those of players whom the reader has met, the latest first. */
export const BASE_ORDERS = ['rating', 'latest', 'opponents'] as const;

export const baseGameSchema = z.object({
  number: z.number(),
  /** The game of the library that it is. */
  gameId: id.nullable(),
  players: z.tuple([z.string().nullable(), z.string().nullable()]),
  ratings: z.tuple([z.number().nullable(), z.number().nullable()]),
  result: z.enum(RESULTS),
  date: z.string().nullable(),
  event: z.string().nullable(),
  /** The move that it went on with at the position. */
  move: z.string().nullable(),
});
export type BaseGameRow = z.infer<typeof baseGameSchema>;

/** Games that met a position, as many as are listed. */
export const listBaseGames = contract('GET', '/api/bases/[id]/games', {
  needs: 'read',
  query: baseFilterSchema.extend({
    position,
    /** Only those that went on with it. */
    move: z.string().max(8).optional(),
    order: z.enum(BASE_ORDERS).default('rating'),
  }),
  answer: z.array(baseGameSchema),
});

/** A game of a base as it was taken in. */
export const findBaseGame = contract('GET', '/api/bases/[id]/game', {
  needs: 'read',
  query: z.object({ number: z.coerce.number().int().nonnegative() }),
  answer: recordSchema,
});

/** Names of a base's players that hold some words, for a choice among them. */
export const findBasePlayers = contract('GET', '/api/bases/[id]/players', {
  needs: 'read',
  query: z.object({ name: words(100) }),
  answer: z.array(z.string()),
});

export const departureSchema = z.object({
  base: z.object({ id, name }),
  /** Games of the base that had come to the position before, but for the game itself. */
  games: z.number(),
  /** The half move that none of them went on with, from 1; null: they hold the game to its end. */
  ply: z.number().nullable(),
  /** What they went on with most; null where none went on. */
  usual: moveFiguresSchema.nullable(),
});
export type Departure = z.infer<typeof departureSchema>;

/** Where a game left each of the reader's bases that had games of its start. */
export const listDepartures = contract('GET', '/api/games/[id]/departures', {
  needs: 'read',
  answer: z.array(departureSchema),
});

/** As many games as are asked for at a time. */
export const MOST_LEFT = 100;

/** Row ids in an address, some behind the other. */
const ids = z
  .string()
  .regex(/^\d{1,16}(?:,\d{1,16})*$/)
  .transform((text) => text.split(',').map(Number));

/** Where a game left something: before which move, and that move. */
const leftAt = {
  ply: z.number(),
  position: z.string(),
  move: z.string(),
  side,
};

export const leftSchema = z.object({
  id,
  /** null: it begins otherwise than all games of the base, or there is none. */
  base: z
    .object({
      name,
      /** null: the base holds it to its end. */
      left: z.object(leftAt).nullable(),
      games: z.number(),
      usual: z.object({ move: z.string(), games: z.number() }).nullable(),
    })
    .nullable(),
  /** Of the owner's side; null where that is not known, or nothing is prepared for how it begins. */
  preparation: z
    .object({
      left: z.object(leftAt).nullable(),
      by: z.enum(['self', 'opponent', 'end']).nullable(),
      prepared: z.array(z.string()),
    })
    .nullable(),
});
export type LeftGame = z.infer<typeof leftSchema>;

/** Where some of the reader's games left a base, and what they had prepared; of those that are not theirs nothing is said. */
export const listLeft = contract('GET', '/api/games/left', {
  query: z.object({
    games: ids.refine((all) => all.length <= MOST_LEFT),
    /** Those that the reader likes to ask, the first of a game's kind; the largest where none is named. */
    bases: ids.optional(),
  }),
  answer: z.array(leftSchema),
});
