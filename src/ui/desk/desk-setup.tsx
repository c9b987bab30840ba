'use client';

import { createContext, useContext } from 'react';
import type { SweepSettings } from '@/core/review/sweep-settings';

/** What the server tells a Desk besides the game. */
export interface DeskSetup {
  source: string;
  /** Who has given the game to the reader; null: it is the reader's own. */
  givenBy: string | null;
  /** Where to go on from the game: its players' other games, those that were opened like it, and those beside it in its event. */
  beside: {
    meetings: { href: string; games: number } | null;
    /** How it was opened, as it is stored, and where the games are that were opened so. */
    opening: { text: string; href: string; games: number } | null;
    previous: number | null;
    next: number | null;
  } | null;
  /** What a sweep does unless told otherwise. */
  sweep: SweepSettings;
}

const SetupContext = createContext<DeskSetup | null>(null);
export const SetupProvider = SetupContext.Provider;

export function useDeskSetup(): DeskSetup {
  const setup = useContext(SetupContext);
  if (!setup) throw new Error('outside a Desk');
  return setup;
}
