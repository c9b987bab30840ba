import * as z from 'zod';
import { GAME_KINDS } from '@/core/game/ruleset';

/** A position in an address; without one, or with a damaged one, the game's own start. */
export const positionQuerySchema = z.object({
  kind: z.enum(GAME_KINDS).catch('chess'),
  position: z.string().max(200).nullable().catch(null),
});
