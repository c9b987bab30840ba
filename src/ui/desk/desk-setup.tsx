'use client';

import { createContext, useContext } from 'react';

/** What the server tells a Desk besides the game. */
export interface DeskSetup {
  gameId: number;
  source: string;
  sweepDepth: number;
  sweepLines: number;
}

const SetupContext = createContext<DeskSetup | null>(null);
export const SetupProvider = SetupContext.Provider;

export function useDeskSetup(): DeskSetup {
  const setup = useContext(SetupContext);
  if (!setup) throw new Error('outside a Desk');
  return setup;
}
