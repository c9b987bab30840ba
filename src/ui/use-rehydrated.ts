'use client';

import { useEffect, useState } from 'react';
import { useAccount } from './account/account';

interface Kept {
  persist: {
    rehydrate(): Promise<void> | void;
    getOptions(): { name?: string };
    setOptions(options: { name: string }): void;
  };
}

/** Each account's own place in a browser that several people use; the demo has the plain one. */
const OF = ' of ';

/** Reads what a store has kept in the browser for the account that is signed in; true once that is done. */
export function useRehydrated(store: Kept): boolean {
  const account = useAccount();
  const [ready, setReady] = useState(false);
  const suffix = account && !account.isDemo ? `${OF}${account.name}` : '';
  useEffect(() => {
    const [name] = store.persist.getOptions().name!.split(OF);
    store.persist.setOptions({ name: `${name}${suffix}` });
    void Promise.resolve(store.persist.rehydrate()).then(() => setReady(true));
  }, [store, suffix]);
  return ready;
}
