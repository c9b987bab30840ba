'use client';

import { useEffect, useMemo, useRef } from 'react';
import type { GameKind } from '@/core/game/ruleset';
import type { Engine } from '@/engine/contract';

/** An engine of one thread for a card's own questions, started with the first of them. */
export function useSideEngine(kind: GameKind): () => Promise<Engine> {
  const engine = useRef<Promise<Engine> | null>(null);
  useEffect(
    () => () => {
      void engine.current?.then((started) => started.close());
      engine.current = null;
    },
    [],
  );
  return useMemo(
    () => () =>
      (engine.current ??= import('@/engine/hosts/browser').then((host) =>
        host.startBrowserEngine(kind, 1),
      )),
    [kind],
  );
}
