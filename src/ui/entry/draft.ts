import * as z from 'zod';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Move } from '@/core/game/move';
import type { GameKind } from '@/core/game/ruleset';
import { walk } from '@/core/game/walk';
import { rulesetOf } from '@/core/rulesets';
import { EMPTY_HEADER, type Header } from '../game-header';
import { useRehydrated } from '../use-rehydrated';

export interface Entered {
  move: Move;
  /** Milliseconds spent, where the score sheet has them. */
  spent: number | null;
}

/** A game that is being entered: kept in the browser until it is saved, so that a closed page loses nothing. */
export interface Draft {
  start: string;
  moves: readonly Entered[];
  header: Header;
}

/** As kept: moves in UCI or USI, and what is only being typed need not be right yet. */
const keptSchema = z.object({
  start: z.string().optional(),
  moves: z
    .array(z.object({ code: z.string(), spent: z.number().nonnegative().nullable() }))
    .catch([]),
  header: z
    .record(z.string(), z.string())
    .transform((header) => ({ ...EMPTY_HEADER, ...header }) as Header)
    .catch(EMPTY_HEADER),
});
type Kept = z.input<typeof keptSchema>;

interface Drafts {
  /** The game last entered. */
  kind: GameKind;
  kept: Partial<Record<GameKind, Partial<Kept>>>;
}

const useDrafts = create<Drafts>()(
  persist((): Drafts => ({ kind: 'chess', kept: {} }), {
    name: 'bektra-drafts',
    skipHydration: true,
  }),
);

/** Whether what was kept has been read; the server knows nothing of it. */
export const useDraftsRead = (): boolean => useRehydrated(useDrafts);

/** The game of the last draft; chess before there has been one. */
export const lastKind = (): GameKind => (useDrafts.getState().kind === 'shogi' ? 'shogi' : 'chess');

/** The game last left half entered, or an empty one; moves that don't fit the position end it. */
export function loadDraft(kind: GameKind): Draft {
  const ruleset = rulesetOf(kind);
  const read = keptSchema.safeParse(useDrafts.getState().kept[kind] ?? {});
  const { start, moves: codes, header } = read.data ?? keptSchema.parse({});
  try {
    const from = ruleset.start(start ?? ruleset.startText);
    const walked = walk(
      ruleset,
      from,
      codes.map(({ code }) => code),
    );
    const moves = walked.map(({ move }, index) => ({ move, spent: codes[index]!.spent }));
    return { start: start ?? ruleset.startText, moves, header };
  } catch {
    return { start: ruleset.startText, moves: [], header };
  }
}

/** Keeps a part of the game that is being entered. */
export function keepDraft(kind: GameKind, { moves, ...rest }: Partial<Draft>): void {
  const { code } = rulesetOf(kind);
  const part = {
    ...rest,
    ...(moves && { moves: moves.map(({ move, spent }) => ({ code: code(move), spent })) }),
  };
  useDrafts.setState(({ kept }) => ({
    kind,
    kept: { ...kept, [kind]: { ...kept[kind], ...part } },
  }));
}

export function forgetDraft(kind: GameKind): void {
  useDrafts.setState(({ kept }) => ({ kept: { ...kept, [kind]: {} } }));
}
