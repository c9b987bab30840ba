'use client';

import * as z from 'zod';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Side } from '@/core/game/ruleset';

const weighedMoveSchema = z.object({
  text: z.string(),
  /** Chance points against the best. */
  cost: z.number(),
});

const resultSchema = z.object({
  yours: weighedMoveSchema,
  played: weighedMoveSchema,
  best: z.string(),
  /** Where in the game: its move number, the position as FEN or SFEN, and the sheet's node. */
  number: z.string(),
  position: z.string(),
  node: z.number(),
  isTurningPoint: z.boolean(),
});

const thoughtSchema = z.object({
  /** UCI or USI. */
  code: z.string(),
  seconds: z.number(),
  /** Stops of the walk in all. */
  count: z.number(),
  /** As the summary shows them; null until the move has been weighed. */
  result: resultSchema.nullable().catch(null),
});

/** A move entered at a stop, with how long it took. */
export type Thought = z.infer<typeof thoughtSchema>;

const keptSchema = z.object({ thoughts: z.record(z.string(), thoughtSchema) });

/** Names a walk through a game: where it stops depends on the sweep, and on whose moves are asked for (null: both sides'). */
export const walkOf = (gameId: number, sweep: number | null, side: Side | null): string =>
  `${gameId}:${sweep}:${side ?? 'both'}`;

export const keyOf = (walk: string, stop: number): string => `${walk}#${stop}`;

interface Thoughts {
  /** By walk and stop, those entered last at the end. */
  thoughts: Readonly<Record<string, Thought>>;
  keep(walk: string, stop: number, thought: Thought): void;
  forget(walk: string): void;
}

/** Thoughts beyond so many are given up, the oldest first. */
const MOST_KEPT = 1000;

/** What has been thought on walks through games, kept in the browser. */
export const useThoughts = create<Thoughts>()(
  persist(
    (set) => ({
      thoughts: {},
      keep: (walk, stop, thought) =>
        set(({ thoughts }) => ({
          thoughts: Object.fromEntries(
            Object.entries({ ...thoughts, [keyOf(walk, stop)]: thought }).slice(-MOST_KEPT),
          ),
        })),
      forget: (walk) =>
        set(({ thoughts }) => ({
          thoughts: Object.fromEntries(
            Object.entries(thoughts).filter(([key]) => !key.startsWith(`${walk}#`)),
          ),
        })),
    }),
    {
      name: 'bektra-thoughts',
      skipHydration: true,
      merge: (kept, current) => ({
        ...current,
        ...keptSchema.catch({ thoughts: {} }).parse(kept),
      }),
    },
  ),
);

export const useThought = (walk: string, stop: number): Thought | undefined =>
  useThoughts(({ thoughts }) => thoughts[keyOf(walk, stop)]);

/** The first stop at which nothing has been entered yet. */
export const useFirstOpenStop = (walk: string): number =>
  useThoughts(({ thoughts }) => {
    let stop = 1;
    while (thoughts[keyOf(walk, stop)]) stop++;
    return stop;
  });
