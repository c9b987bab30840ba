import * as z from 'zod';
import { contract } from './contract';
import { ASK_STATES } from './review';
import { codes, id } from './shapes';

/** A proof of one position that somebody asked for. */
export const proofSchema = z.object({
  id,
  gameId: id,
  state: z.enum(ASK_STATES),
  position: z.object({
    /** The node of the game that the position is at, or that its line leaves from. */
    node: z.number(),
    /** The moves from the start to the position, in UCI. */
    moves: codes,
  }),
  /** Of the work at most, 0–1: it ends as soon as all is certain. */
  share: z.number(),
});
export type Proof = z.infer<typeof proofSchema>;

/** What a proof of a position would take; null where it is out of reach, or nothing is left to prove. Refused with 422 where it is none. */
export const planProof = contract('GET', '/api/endings/plan', {
  needs: 'account',
  query: z.object({ position: z.string().min(1).max(200) }),
  answer: z
    .object({
      /** With all that can be reached from it, or with bounds where a pawn becomes something else. */
      how: z.enum(['exact', 'bounds']),
      positions: z.number(),
      /** About; of a proof in bounds, until promotions are gone into. */
      seconds: z.number(),
      bytes: z.number(),
    })
    .nullable(),
});

export const listProofs = contract('GET', '/api/games/[id]/proofs', {
  needs: 'read',
  answer: z.array(proofSchema),
});

/** Refused with 422 where it is out of reach, 429 where too many are asked for already. */
export const startProof = contract('POST', '/api/games/[id]/proofs', {
  needs: 'edit',
  body: z.object({
    node: z.number().int().min(0),
    way: z.array(z.string().max(8)).max(500).readonly(),
  }),
  answer: proofSchema,
  status: 201,
});

/** Stops a proof, or takes a finished one away; what is known stays. */
export const stopProof = contract('DELETE', '/api/proofs/[id]', { needs: 'edit' });
