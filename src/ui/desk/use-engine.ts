'use client';

import { useEffect, useMemo, useRef } from 'react';
import type { GameKind } from '@/core/game/ruleset';
import type { Engine } from '@/engine/contract';

const oneThread = (): number => 1;

/** An engine in workers of the page, started with the first question and closed with the card that asks. */
export function useEngine(
  kind: GameKind,
  threads: () => number = oneThread,
): () => Promise<Engine> {
  const engine = useRef<Promise<Engine> | null>(null);
  useEffect(
    () => () => {
      engine.current?.then((started) => started.close()).catch(() => undefined);
      engine.current = null;
    },
    [],
  );
  return useMemo(
    () => () => {
      engine.current ??= import('@/engine/hosts/browser').then((host) =>
        host.startBrowserEngine(kind, threads()),
      );
      // what could not be started is tried anew the next time
      engine.current.catch(() => (engine.current = null));
      return engine.current;
    },
    [kind, threads],
  );
}
