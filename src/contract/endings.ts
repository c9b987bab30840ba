import * as z from 'zod';
import { contract } from './contract';

const exactSchema = z.object({
  result: z.enum(['win', 'draw', 'loss']),
  /** Until the mate, with best play; null where it is drawn. */
  plies: z.number().nullable(),
});

/** Up to so many men on a board, kings among them, everything is worked out; up to {@link MOST_MEN} a position may have been proved. */
export const TABLE_MEN = 4;
export const MOST_MEN = 6;

export const endingAnswerSchema = z.object({
  /** Whether there are, or will be, no tables of so many men, or they are still being made. */
  tables: z.enum(['there', 'coming', 'none']),
  /** Of the side to move; null where no table says, as where somebody may still castle. */
  exact: exactSchema.nullable(),
  /** Whether the fastest mate comes after the hundredth half move in a row without a capture or a pawn move. */
  comesTooLate: z.boolean(),
  /** The best first, each from the view of who makes it. */
  moves: z.array(
    exactSchema.extend({
      /** UCI. */
      move: z.string(),
      /** Of a move that loses: how many replies still win. */
      replies: z.number().nullable(),
    }),
  ),
});
export type EndingAnswer = z.infer<typeof endingAnswerSchema>;
export type EndingMove = EndingAnswer['moves'][number];

/** What a chess position is worth with best play. Refused with 422 where it is none. */
export const askEnding = contract('GET', '/api/endings', {
  needs: 'nothing',
  query: z.object({ position: z.string().min(1).max(200) }),
  answer: endingAnswerSchema,
});
