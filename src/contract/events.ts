import * as z from 'zod';

/** Something changed; who wants to know more asks for it. */
export const eventSchema = z.object({
  type: z.enum(['sweep', 'study', 'proof', 'batch', 'import', 'game', 'grant', 'base']),
  id: z.number(),
  gameId: z.number().optional(),
  cancelled: z.boolean().optional(),
  /** Of something asked: it is over. */
  done: z.boolean().optional(),
});
export type ServerEvent = z.infer<typeof eventSchema>;
