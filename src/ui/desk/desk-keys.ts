'use client';

import { useHotkeys } from 'react-hotkeys-hook';
import { useReview } from './desk-review';
import { useDeskStore } from './desk-store';

/** The next of some plies after or before a ply, going round at the end; null where there is none. */
export function nextAfter(plies: readonly number[], ply: number, direction: 1 | -1): number | null {
  const ordered = direction === 1 ? plies : plies.toReversed();
  const beyond = ordered.find((candidate) => (candidate - ply) * direction > 0);
  return beyond ?? ordered[0] ?? null;
}

/** The Desk's keys. */
export function useDeskKeys(): void {
  const store = useDeskStore();
  const { turningPoints, ownErrors } = useReview();
  const options = { preventDefault: true };
  const jump = (plies: readonly number[], direction: 1 | -1): void => {
    const { node, view, goToPly } = store.getState();
    const target = nextAfter(plies, view.plyOf(node), direction);
    if (target !== null) goToPly(target);
  };
  useHotkeys('right', () => store.getState().move(1), options);
  useHotkeys('left', () => store.getState().move(-1), options);
  useHotkeys('home', () => store.getState().toStart(), options);
  useHotkeys('end', () => store.getState().toEnd(), options);
  useHotkeys('f', () => store.getState().flip(), options);
  useHotkeys('esc', () => store.getState().leaveExcursion());
  useHotkeys('t', () => jump(turningPoints, 1), options, [turningPoints]);
  useHotkeys('shift+t', () => jump(turningPoints, -1), options, [turningPoints]);
  useHotkeys('m', () => jump(ownErrors, 1), options, [ownErrors]);
  useHotkeys('shift+m', () => jump(ownErrors, -1), options, [ownErrors]);
}
