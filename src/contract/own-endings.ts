import * as z from 'zod';
import { GAME_KINDS, type GameKind } from '@/core/game/ruleset';

/** What was made of endings: of those won, drawn or lost, or of which that is not known. */
export const ENDING_WORTHS = ['win', 'draw', 'loss', 'unknown'] as const;
export type EndingWorthName = (typeof ENDING_WORTHS)[number];

/** Which of the endings are shown one by one. */
export interface EndingsShown {
  kind: GameKind;
  name: string;
  worth: EndingWorthName;
}

const shownSchema = z.object({
  kind: z.enum(GAME_KINDS),
  name: z.string().max(20),
  worth: z.enum(ENDING_WORTHS),
});

/** Reads what {@link endingsHref} wrote; null where none, or nothing that can be, is asked for. */
export const readEndingsQuery = (query: unknown): EndingsShown | null =>
  shownSchema.safeParse(query).data ?? null;

export const endingsHref = ({ kind, name, worth }: EndingsShown): string =>
  `/endings?${new URLSearchParams({ kind, name, worth })}#shown`;
