'use client';

import { create } from 'zustand';
import { persist } from 'zustand/middleware';

export type Theme = 'light' | 'dark' | 'system';

interface Preferences {
  theme: Theme;
  shogiPieces: 'kanji' | 'letters';
  shogiNotation: 'western' | 'japanese';
  /** How visible marks on the board are, in percent. */
  markStrength: number;
  set(change: Partial<Omit<Preferences, 'set'>>): void;
}

/** What a person likes to see; kept in the browser. */
export const usePreferences = create<Preferences>()(
  persist(
    (set) => ({
      theme: 'system',
      shogiPieces: 'kanji',
      shogiNotation: 'western',
      markStrength: 80,
      set: (change) => set(change),
    }),
    { name: 'bektra-preferences', skipHydration: true },
  ),
);
