import * as z from 'zod';
import { stepSchema } from '@/core/game/step-schema';
import { GAME_KINDS } from '@/core/game/ruleset';
import { recordSchema } from '@/core/game/serial';
import { contract } from './contract';
import { id, side } from './shapes';

/** PostgreSQL's largest integer. */
const version = z
  .number()
  .int()
  .min(0)
  .max(2 ** 31 - 1);

/** As many steps as are taken at once. */
export const MOST_STEPS = 500;

export const createGame = contract('POST', '/api/games', {
  /** `copy`: also where the game is there already. */
  query: z.object({ copy: z.literal('1').optional() }),
  body: recordSchema,
  answer: z.object({ id, duplicate: z.boolean() }),
  status: 201,
});

export const keepOwnSide = contract('PUT', '/api/games/[id]/own-side', {
  needs: 'edit',
  body: z.object({ side: side.nullable() }),
});

/** What others did to a game since a version of it. */
export const changesSchema = z.object({ version, steps: z.array(stepSchema) });

export const changesSince = contract('GET', '/api/games/[id]/steps', {
  needs: 'read',
  query: z.object({ since: z.coerce.number().pipe(version) }),
  answer: changesSchema,
});

/** Refused with 409 and {@link changesSchema} as the detail where the game has changed meanwhile, 422 where the steps do not fit it. */
export const saveSteps = contract('POST', '/api/games/[id]/steps', {
  needs: 'comment',
  body: z.object({
    version: version.min(1),
    steps: z.array(stepSchema).min(1).max(MOST_STEPS),
  }),
  answer: z.object({ version }),
});

export const occurrenceSchema = z.object({
  gameId: id,
  /** The node at which the position came up. */
  node: z.number(),
  players: z.tuple([z.string().nullable(), z.string().nullable()]),
  result: z.string(),
  date: z.string().nullable(),
  event: z.string().nullable(),
  /** How it went on there, in SAN or western notation; null at the end. */
  next: z.string().nullable(),
});

/** Where else a position came up. */
export const findPosition = contract('GET', '/api/positions', {
  query: z.object({
    kind: z.enum(GAME_KINDS),
    position: z.string().max(200),
    except: z.coerce.number().int().nonnegative().max(Number.MAX_SAFE_INTEGER).default(0),
  }),
  answer: z.object({ occurrences: z.array(occurrenceSchema), total: z.number() }),
});
