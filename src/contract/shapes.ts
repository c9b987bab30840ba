import * as z from 'zod';
import type { AnswerLine } from '@/core/ask/question';
import { PHASES, type Side } from '@/core/game/ruleset';
import { scoreSchema } from '@/core/game/serial';
import type { PositionEvaluation } from '@/core/review/evaluation';
import type { Findings, MoveReview } from '@/core/review/review';
import type { Seen } from '@/core/review/seen';
import type { Origin } from '@/core/review/value';
import { VERDICTS } from '@/core/review/verdict';

export const id = z.number().int().nonnegative();
export const side = z.literal([0, 1]);

/** A side as addresses have it. */
export const sideWord = z.enum(['first', 'second']);
export const wordOfSide = (of: Side): z.infer<typeof sideWord> => (of === 0 ? 'first' : 'second');
export const sideOfWord = (word: z.infer<typeof sideWord>): Side => (word === 'first' ? 0 : 1);
export const codes = z.array(z.string());

export const answerLine: z.ZodType<AnswerLine> = z.object({ score: scoreSchema, moves: codes });

const seen: z.ZodType<Seen> = z.object({ plies: z.number().nullable(), deepest: z.number() });

export const evaluation: z.ZodType<PositionEvaluation> = z.object({
  depth: z.number(),
  lines: z.array(answerLine),
  played: answerLine.optional(),
  compared: z.array(answerLine).optional(),
  seen: seen.optional(),
  isUnsettled: z.boolean().optional(),
  isOutside: z.boolean().optional(),
  answers: z.number(),
}) as z.ZodType<PositionEvaluation>;

export const moveReview: z.ZodType<MoveReview> = z.object({
  ply: z.number(),
  side,
  best: z.number(),
  played: z.number(),
  bestScore: scoreSchema,
  playedScore: scoreSchema,
  loss: z.number(),
  verdict: z.enum(VERDICTS),
  rank: z.number().nullable(),
  linesKnown: z.number(),
  othersHold: z.number(),
  seen: seen.nullable(),
  isTurningPoint: z.boolean(),
  isChoice: z.boolean(),
  phase: z.enum(PHASES),
  spent: z.number().nullable(),
  walksIntoMate: z.boolean(),
  betterLine: codes,
  refutation: codes,
  depth: z.number(),
  isUnsettled: z.boolean(),
});

const origin: z.ZodType<Origin> = z.discriminatedUnion('by', [
  z.object({ by: z.literal('rules') }),
  z.object({ by: z.literal('tables') }),
  z.object({ by: z.literal('search'), depth: z.number() }),
]);

const accuracy = z.object({
  value: z.number().nullable(),
  error: z.number().nullable(),
  moves: z.number(),
  meanLoss: z.number().nullable(),
});

export const findings: z.ZodType<Findings> = z.object({
  moves: z.array(moveReview.nullable()),
  course: z.array(z.object({ chance: z.number(), origin }).nullable()),
  accuracy: z.tuple([accuracy, accuracy]),
});
