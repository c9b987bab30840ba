'use client';

import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { CalledOff, type Plan } from '@/core/ask/question';
import type { GameKind } from '@/core/game/ruleset';
import { askOf } from '@/engine/contract';
import { useEngine } from './use-engine';

/** Runs plans on an engine of the page, one at a time: the next calls the one before off, and so does leaving. */
export function usePlan(kind: GameKind) {
  const engine = useEngine(kind);
  const [state, setState] = useState<'idle' | 'busy' | 'failed'>('idle');
  const underWay = useRef<AbortController | null>(null);
  const stop = useCallback(() => underWay.current?.abort(), []);
  useEffect(() => stop, [stop]);
  const run = useCallback(
    async <Found>(plan: Plan<Found>, tell: (soFar: Found) => void): Promise<void> => {
      stop();
      const own = new AbortController();
      underWay.current = own;
      setState('busy');
      const outcome = await engine()
        .then((started) => plan(askOf(started, own.signal), tell))
        .then(
          () => 'idle' as const,
          (error: unknown) =>
            error instanceof CalledOff ? ('idle' as const) : ('failed' as const),
        );
      if (underWay.current === own) setState(outcome);
    },
    [engine, stop],
  );
  return useMemo(
    () => ({ run, stop, busy: state === 'busy', failed: state === 'failed' }),
    [run, stop, state],
  );
}

/** Whether a time is not over yet, from now on. */
export function within(milliseconds: number): () => boolean {
  const until = performance.now() + milliseconds;
  return () => performance.now() < until;
}
