'use client';

import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';

/** A move entered at a stop, with how long it took. */
export interface Thought {
  /** UCI or USI. */
  code: string;
  seconds: number;
  /** As the summary shows them; null until the move has been weighed. */
  result: { text: string; best: string; cost: number } | null;
}

interface Thoughts {
  /** By walk and stop. */
  thoughts: Readonly<Record<string, Thought>>;
  keep(walk: string, stop: number, thought: Thought): void;
  forget(walk: string): void;
}

const keyOf = (walk: string, stop: number): string => `${walk}#${stop}`;

/** What has been thought on walks through games; kept until the tab is closed. */
export const useThoughts = create<Thoughts>()(
  persist(
    (set) => ({
      thoughts: {},
      keep: (walk, stop, thought) =>
        set(({ thoughts }) => ({ thoughts: { ...thoughts, [keyOf(walk, stop)]: thought } })),
      forget: (walk) =>
        set(({ thoughts }) => ({
          thoughts: Object.fromEntries(
            Object.entries(thoughts).filter(([key]) => !key.startsWith(`${walk}#`)),
          ),
        })),
    }),
    {
      name: 'bektra-thoughts',
      storage: createJSONStorage(() => sessionStorage),
      skipHydration: true,
    },
  ),
);

export const useThought = (walk: string, stop: number): Thought | undefined =>
  useThoughts(({ thoughts }) => thoughts[keyOf(walk, stop)]);
