import * as z from 'zod';
import { contract } from './contract';

const resultSchema = z.enum(['win', 'draw', 'loss']);

/** What somebody gets with best play, at least and at most: the same where it is certain. */
const worthSchema = z.object({
  least: resultSchema,
  most: resultSchema,
  /** Until the mate, with best play; null where there is none, or it is not known. */
  plies: z.number().nullable(),
  /** Whether the mate may come sooner. */
  isAtMost: z.boolean(),
});

/** Up to so many men on a board, kings among them, everything is worked out; up to {@link MOST_MEN} a position may be proved. */
export const TABLE_MEN = 4;
export const MOST_MEN = 8;

export const endingAnswerSchema = z.object({
  /** Whether there are, or will be, no tables of so many men, or they are still being made. */
  tables: z.enum(['there', 'coming', 'none']),
  /** While they are being made: how many of them are there already. */
  made: z.object({ done: z.number(), of: z.number() }).nullable(),
  /** Of the side to move; null where nothing is known, as where somebody may still castle. */
  worth: worthSchema.nullable(),
  /** Whether the fastest mate comes after the hundredth half move in a row without a capture or a pawn move. */
  comesTooLate: z.boolean(),
  /** The best first, each from the view of who makes it. */
  moves: z.array(
    worthSchema.extend({
      /** UCI. */
      move: z.string(),
      /** Of a move that loses: how many replies still win. */
      replies: z.number().nullable(),
    }),
  ),
});
export type EndingAnswer = z.infer<typeof endingAnswerSchema>;
export type EndingMove = EndingAnswer['moves'][number];
export type EndingWorth = z.infer<typeof worthSchema>;

/** Whether it is certain. */
export const isCertain = ({ least, most }: EndingWorth): boolean => least === most;

/** What a chess position is worth with best play. Refused with 422 where it is none. */
export const askEnding = contract('GET', '/api/endings', {
  needs: 'nothing',
  query: z.object({ position: z.string().min(1).max(200) }),
  answer: endingAnswerSchema,
});
