'use client';

import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { useLocale } from 'next-intl';
import type { WritingName } from '@/core/game/ruleset';
import type { BaseFilterQuery } from '@/contract/bases';
import { USUAL_COLUMNS, type ShownColumn } from '@/contract/library';
import { USUAL_REMARKS, type Remarks } from '@/core/review/remarks';

export type Theme = 'light' | 'dark' | 'system';

/** A named set of choices for a sweep. */
export interface Preset {
  name: string;
  /** As the settings' own text. */
  effort: string;
  remarks: Remarks;
}

interface Preferences {
  theme: Theme;
  shogiPieces: 'kanji' | 'letters';
  /** `language`: as people write in the language of the interface. */
  shogiNotation: WritingName | 'language';
  /** How visible marks on the board are, in percent. */
  markStrength: number;
  /** Whether the Lines card thinks about what is on the board, in how many lines, and looks for threats. */
  thinking: boolean;
  lineCount: number;
  threats: boolean;
  /** How long sweeps are to look, as the settings' own text; null: as the server has it. */
  effort: string | null;
  /** How games that are taken in are gone over; null: not unless asked. */
  sweepOnImport: string | null;
  /** How what sweeps find is put beside the moves. */
  remarks: Remarks;
  /** What the library shows of games, in this order. */
  columns: readonly ShownColumn[];
  /** The bases that the Desk asks, by their ids, and which of their games count. */
  askedBases: readonly number[];
  baseFilter: BaseFilterQuery;
  /** Other games of the first base, with which those are compared; null: none. */
  comparedFilter: BaseFilterQuery | null;
  /** Whether accuracy is told without the moves that the first of those bases knows. */
  leavesOutKnown: boolean;
  /** What a person has put together and named. */
  presets: readonly Preset[];
  set(change: Partial<Omit<Preferences, 'set'>>): void;
}

/** What a person likes to see; kept in the browser. */
export const usePreferences = create<Preferences>()(
  persist(
    (set) => ({
      theme: 'system',
      shogiPieces: 'kanji',
      shogiNotation: 'language',
      markStrength: 80,
      thinking: false,
      lineCount: 3,
      threats: false,
      effort: null,
      sweepOnImport: null,
      remarks: USUAL_REMARKS,
      columns: USUAL_COLUMNS,
      askedBases: [],
      baseFilter: {},
      comparedFilter: null,
      leavesOutKnown: false,
      presets: [],
      set: (change) => set(change),
    }),
    { name: 'bektra-preferences', skipHydration: true },
  ),
);

/** How shogi moves are written: as chosen, else as in the language of the interface. */
export function useShogiNotation(): WritingName {
  const chosen = usePreferences((state) => state.shogiNotation);
  const locale = useLocale();
  if (chosen !== 'language') return chosen;
  return locale === 'ja' ? 'japanese' : 'western';
}
