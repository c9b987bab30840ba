import * as z from 'zod';
import { contract } from './contract';
import { id } from './shapes';

const name = z.string().min(1).max(200);

/** Somebody who plays in the owner's games. */
export const playerSchema = z.object({
  id,
  name,
  /** All names under which they appear. */
  names: z.array(name),
  isSelf: z.boolean(),
  games: z.number(),
  /** Date of the latest game; null where none has one. */
  latest: z.string().nullable(),
});
export type Player = z.infer<typeof playerSchema>;

/** Who plays in the owner's games: the owner first, then those with most games. */
export const listPlayers = contract('GET', '/api/players', {
  answer: z.object({ players: z.array(playerSchema) }),
});

/** How a player is shown, whether they are the owner themselves, who is the same person, and a name that is somebody else's. */
export const changePlayer = contract('PUT', '/api/players/[id]', {
  body: z.object({
    name: name.optional(),
    isSelf: z.boolean().optional(),
    /** Players that are joined to this one. */
    join: z.array(id).max(50).default([]),
    /** A name under which somebody else appears, who becomes a player of their own. */
    part: name.optional(),
  }),
  answer: playerSchema,
});
