import * as z from 'zod';
import { OPTION_TYPES } from '@/core/notation/engine-options';
import { GAME_KINDS } from '@/core/game/ruleset';
import { contract } from './contract';
import { ASK_STATES } from './review';
import { answerLine, codes, id } from './shapes';

/** A search of one position that somebody asked for: a much deeper one, or one of an external engine. */
export const studySchema = z.object({
  id,
  gameId: id,
  /** Name of an external engine; null: our own. */
  engine: z.string().nullable(),
  state: z.enum(ASK_STATES),
  position: z.object({
    /** The node of the game that the position is at, or that its line leaves from. */
    node: z.number(),
    /** The moves from the start to the position, in UCI or USI. */
    moves: codes,
  }),
  /** What it has found so far. */
  answer: z
    .object({
      depth: z.number(),
      nodes: z.number(),
      milliseconds: z.number(),
      lines: z.array(answerLine),
    })
    .nullable(),
  error: z.string().nullable(),
});
export type Study = z.infer<typeof studySchema>;

export const listStudies = contract('GET', '/api/games/[id]/studies', {
  needs: 'read',
  answer: z.array(studySchema),
});

/** Refused with 422 where there is nothing to find, 403 without such an engine, 429 where too many are asked for already. */
export const startStudy = contract('POST', '/api/games/[id]/studies', {
  needs: 'edit',
  body: z.object({
    node: z.number().int().min(0),
    way: z.array(z.string().max(8)).max(500).readonly(),
    /** Null: our own. */
    engine: z.string().max(60).nullable(),
    lines: z.number().int().min(1).max(8),
    /** For an external engine: how long it may think. */
    seconds: z.number().int().min(1).max(600).optional(),
  }),
  answer: studySchema,
  status: 201,
});

export const findStudy = contract('GET', '/api/studies/[id]', {
  needs: 'read',
  answer: studySchema,
});

/** Calls a study off, or takes a finished one away. */
export const removeStudy = contract('DELETE', '/api/studies/[id]', { needs: 'edit' });

/** An external engine as the people who may use it see it. */
export const offeredEngineSchema = z.object({
  name: z.string(),
  /** What it offers to set, and what the server's file sets. */
  options: z.array(
    z.object({
      name: z.string(),
      type: z.enum(OPTION_TYPES),
      default: z.string().nullable(),
      min: z.number().nullable(),
      max: z.number().nullable(),
      choices: z.array(z.string()).readonly(),
    }),
  ),
  set: z.record(z.string(), z.string()).readonly(),
  problem: z.string().nullable(),
});
export type OfferedEngine = z.infer<typeof offeredEngineSchema>;

export const listEngines = contract('GET', '/api/engines', {
  query: z.object({ kind: z.enum(GAME_KINDS) }),
  answer: z.array(offeredEngineSchema),
});
