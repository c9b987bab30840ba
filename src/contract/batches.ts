import * as z from 'zod';
import { sweepSettingsSchema } from '@/core/review/sweep-settings';
import { contract } from './contract';
import { gameChoiceSchema } from './game-filter';
import { ASK_STATES } from './review';
import { id } from './shapes';

/** Games that are gone over one after the other, and how far that has come. */
export const batchSchema = z.object({
  id,
  settings: z.string(),
  state: z.enum(ASK_STATES),
  /** How many there are, and what has become of them. */
  games: z.number(),
  done: z.number(),
  failed: z.number(),
  running: z.number(),
  /** Positions finished, and in all. */
  positions: z.number(),
  totalPositions: z.number(),
  /** Seconds left, from what was finished lately; null where nothing was. */
  secondsLeft: z.number().nullable(),
  /** Whether a game that was asked for by itself, by whomever, is gone over before it. */
  givesWay: z.boolean(),
});
export type Batch = z.infer<typeof batchSchema>;

/** Those under way, then the latest others. */
export const listBatches = contract('GET', '/api/batches', { answer: z.array(batchSchema) });

/** Goes over the games that a filter of the list holds, but those that are being gone over; 422 where there are none. */
export const startBatch = contract('POST', '/api/batches', {
  body: gameChoiceSchema.extend({
    /** Leave out games that have been gone over already. */
    onlyNew: z.boolean(),
    /** Only the owner's moves, in games where a side is known as theirs. */
    ownMoves: z.boolean().default(false),
    settings: sweepSettingsSchema,
  }),
  answer: batchSchema,
  status: 201,
});

/** Lets no further game begin, or goes on. */
export const pauseBatch = contract('PUT', '/api/batches/[id]', {
  body: z.object({ paused: z.boolean() }),
  answer: batchSchema,
});

/** Puts one before all others that are under way. */
export const hurryBatch = contract('POST', '/api/batches/[id]/first', { answer: batchSchema });

/** Calls off what is not finished yet; what was found stays. */
export const stopBatch = contract('DELETE', '/api/batches/[id]');
