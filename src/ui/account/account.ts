'use client';

import { createContext, useContext } from 'react';

/** Who is signed in, as pages show it. */
export interface ShownAccount {
  name: string;
  isDemo: boolean;
}

const AccountContext = createContext<ShownAccount | null>(null);
export const AccountProvider = AccountContext.Provider;

/** Who is signed in; null: nobody. */
export const useAccount = (): ShownAccount | null => useContext(AccountContext);
