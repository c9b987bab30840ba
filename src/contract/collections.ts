import * as z from 'zod';
import { contract } from './contract';
import { id } from './shapes';
import { words } from './words';

const name = words(80);

export const collectionSchema = z.object({
  id,
  name,
  /** How many games are in it. */
  games: z.number(),
});
export type Collection = z.infer<typeof collectionSchema>;

/** Refused with 409 `taken` where there is one of that name. */
export const makeCollection = contract('POST', '/api/collections', {
  body: z.object({ name }),
  answer: collectionSchema,
  status: 201,
});

export const renameCollection = contract('PUT', '/api/collections/[id]', {
  body: z.object({ name }),
  answer: collectionSchema,
});

/** The games themselves stay. */
export const removeCollection = contract('DELETE', '/api/collections/[id]');
