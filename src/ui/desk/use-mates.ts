'use client';

import { useEffect, useRef, useState } from 'react';
import type { MateLook } from '@/core/ask/mate';
import { startBrowserMates, type BrowserMates, type MatesTold } from '@/engine/hosts/browser-mates';
import type { BoardPlace } from './board-place';
import { useDesk } from './desk-store';
import { passedRoot } from './live-analysis';

/** How long a position must stay on the board before it is looked at, in milliseconds. */
const STAY = 150;

export interface Mates {
  /** Of the position on the board; null as long as nothing is known. */
  look: MateLook | null;
  done: boolean;
  failed: boolean;
}

/** Looks for mates at what is on the board of a shogi game. @param nodes positions to be expanded for each */
export function useMates(place: BoardPlace, nodes: number): Mates {
  const ruleset = useDesk(({ view }) => view.ruleset);
  const mates = useRef<BrowserMates | null>(null);
  const [told, setTold] = useState<MatesTold | null>(null);
  const [failed, setFailed] = useState(false);
  const position = ruleset.write(place.position);
  const passed = passedRoot(ruleset, place.position)?.position ?? null;
  useEffect(
    () => () => {
      mates.current?.close();
      mates.current = null;
    },
    [],
  );
  useEffect(() => {
    const wait = setTimeout(() => {
      mates.current ??= startBrowserMates(setTold, () => setFailed(true));
      mates.current.ask({ position, passed, nodes });
    }, STAY);
    return () => {
      clearTimeout(wait);
      mates.current?.ask(null);
    };
  }, [position, passed, nodes]);
  const isOfNow = told?.asked.position === position && told.asked.nodes === nodes;
  return { look: isOfNow ? told.look : null, done: isOfNow && told.done, failed };
}
