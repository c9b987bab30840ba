'use client';

import { useEffect, useState } from 'react';

/** Reads what a store has kept in the browser; true once that is done. */
export function useRehydrated(store: { persist: { rehydrate(): Promise<void> | void } }): boolean {
  const [ready, setReady] = useState(false);
  useEffect(() => {
    void Promise.resolve(store.persist.rehydrate()).then(() => setReady(true));
  }, [store]);
  return ready;
}
