import * as z from 'zod';
import { GAME_KINDS } from '@/core/game/ruleset';
import { LIMITS } from '@/core/game/problem';
import type { Change, SweepFindings } from '@/core/review/findings';
import { VERDICTS } from '@/core/review/verdict';
import { sweepSettingsSchema } from '@/core/review/sweep-settings';
import { contract } from './contract';
import { codes, evaluation, findings, id, moveReview, side } from './shapes';

export const ASK_STATES = ['queued', 'running', 'paused', 'done', 'cancelled', 'failed'] as const;
const state = z.enum(ASK_STATES);

export const sweepStatusSchema = z.object({
  id,
  settings: z.string(),
  /** The version of the engine that answers; null before it has begun. */
  version: z.string().nullable(),
  state,
  /** Positions finished, and to be looked at in all. */
  done: z.number(),
  total: z.number(),
  /** It is one of those of a batch. */
  inBatch: z.boolean(),
  error: z.string().nullable(),
});
export type SweepStatus = z.infer<typeof sweepStatusSchema>;

const sweepFindings: z.ZodType<SweepFindings> = z.object({
  line: codes,
  findings,
  variations: z.array(z.tuple([id, moveReview])),
});

const said = z.object({ verdict: z.enum(VERDICTS), loss: z.number() });

/** The sweep before the one that is shown, and the moves of which it said something else. */
const comparisonSchema = z.object({
  settings: z.string(),
  changes: z.array(z.object({ ply: z.number(), before: said, now: said })) satisfies z.ZodType<
    Change[]
  >,
});
export type Comparison = z.infer<typeof comparisonSchema>;

/** What the sweep that is shown found, as far as the page lacks it: its findings once it is complete, and evaluations by ply. */
const shownSchema = z.object({
  sweep: sweepStatusSchema,
  findings: sweepFindings.nullable(),
  /** What it is set beside; null where there is none before it, or it has given way. */
  comparison: comparisonSchema.nullable(),
  /** The main line whose positions these are, in UCI or USI. */
  line: codes,
  evaluations: z.array(z.tuple([z.number(), evaluation])),
});

export const reviewStateSchema = z.object({
  /** The latest sweep. */
  sweep: sweepStatusSchema.nullable(),
  /** The sweep that is shown, which stays until a newer one is complete; null without any. */
  shown: shownSchema.nullable(),
});
export type ReviewState = z.infer<typeof reviewStateSchema>;

/** What is known of a game's review; of the sweep `has`, only what rests on more answers than are `known`, and `complete`: not the findings either. */
export const findReview = contract('GET', '/api/games/[id]/review', {
  needs: 'read',
  query: z.object({
    has: z.coerce.number().int().nonnegative().optional(),
    complete: z.literal('1').optional(),
    /** As `knownAnswers` writes them. */
    known: z
      .string()
      .max(LIMITS.plies + 1)
      .regex(/^[0-9a-z]*$/)
      .default(''),
  }),
  answer: reviewStateSchema,
});

export const startSweep = contract('POST', '/api/games/[id]/sweep', {
  needs: 'edit',
  body: sweepSettingsSchema,
  answer: sweepStatusSchema,
  status: 202,
});

/** What sweeps of games, of a kind or of all, have been found to go through here, over all engines; null before any. */
export const findSpeed = contract('GET', '/api/speed', {
  query: z.object({ kind: z.enum(GAME_KINDS).optional() }),
  answer: z.object({ nodesPerSecond: z.number().nullable(), engines: z.number() }),
});

/** Sets the sweep that is shown beside the one before it, or lets that one give way; 404 where none is shown. */
export const compareSweep = contract('PUT', '/api/games/[id]/sweep', {
  needs: 'edit',
  body: z.object({ beside: z.boolean() }),
  answer: reviewStateSchema,
});

export const stopSweep = contract('DELETE', '/api/games/[id]/sweep', { needs: 'edit' });

/** A move has been entered at a stop: what was best there, and what was played. */
export const answerThought = contract('POST', '/api/games/[id]/think', {
  needs: 'read',
  body: z.object({
    side: side.nullable(),
    stop: z.number().int().positive(),
    /** UCI or USI. */
    move: z.string().max(8),
  }),
  answer: z.object({
    /** UCI or USI. */
    played: z.string(),
    best: z.string(),
    /** Place of the move entered among the lines of the sweep, from 1; null where it is outside of them. */
    rank: z.number().nullable(),
    linesKnown: z.number(),
    isTurningPoint: z.boolean(),
    /** The node of the position on the Desk. */
    node: z.number(),
  }),
});
