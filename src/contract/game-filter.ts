import * as z from 'zod';
import { GAME_KINDS } from '@/core/game/ruleset';
import { id } from './shapes';

const kind = z.enum(GAME_KINDS).optional();
/** Part of a player's name, an event or a date. */
const text = z.string().max(100).optional();

/** Which of an owner's games are meant; what is left out does not matter. */
export const gameFilterSchema = z.object({
  kind,
  text,
  /** In which a player plays, and against whom. */
  player: id.optional(),
  against: id.optional(),
  collection: id.optional(),
});
export type GameFilter = z.infer<typeof gameFilterSchema>;

const idInAddress = z.coerce
  .number()
  .int()
  .positive()
  .max(Number.MAX_SAFE_INTEGER)
  .optional()
  .catch(undefined);

const addressSchema: z.ZodType<GameFilter> = z.object({
  // a form sends what was not chosen as well
  kind: kind.catch(undefined),
  text: text.catch(undefined).transform((words) => words || undefined),
  player: idInAddress,
  against: idInAddress,
  collection: idInAddress,
});

/** A filter as an address has it; what is not understood is left out. */
export const readFilter = (query: Readonly<Record<string, unknown>>): GameFilter =>
  addressSchema.parse(query);

/** The same for an address. */
export const filterQuery = (filter: GameFilter): URLSearchParams =>
  new URLSearchParams(
    Object.entries(filter).flatMap(([name, value]) =>
      value === undefined ? [] : [[name, String(value)]],
    ),
  );
