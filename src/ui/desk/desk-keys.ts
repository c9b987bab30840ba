'use client';

import { useEffect, useRef } from 'react';
import {
  deleteFrom,
  deleteVariation,
  demote,
  makeMainLine,
  promote,
  toggleSymbol,
  type Edit,
} from '@/core/game/edits';
import { ROOT, type GameTree, type NodeId } from '@/core/game/tree';
import { usePreferences } from '../preferences';
import { useReview } from './desk-review';
import { useDeskStore, type Writing } from './desk-store';
import type { GameView } from '../game-view';
import { useDeskShortcuts } from './shortcuts';
import { nagOfKeys, SIGN_PAUSE_MS } from './symbols';

/** The next of some plies after or before a ply, going round at the end; null where there is none. */
export function nextAfter(plies: readonly number[], ply: number, direction: 1 | -1): number | null {
  const ordered = direction === 1 ? plies : plies.toReversed();
  const beyond = ordered.find((candidate) => (candidate - ply) * direction > 0);
  return beyond ?? ordered[0] ?? null;
}

/** The Desk's keys. */
export function useDeskKeys(): void {
  const store = useDeskStore();
  const { beforeTurningPoints, ownErrors } = useReview();
  const { thinking, threats, set } = usePreferences();
  const jump = (plies: readonly number[], direction: 1 | -1): void => {
    const { node, view, goToPly } = store.getState();
    const target = nextAfter(plies, view.plyOf(node), direction);
    if (target !== null) goToPly(target);
  };
  useDeskShortcuts({
    forward: () => store.getState().move(1),
    back: () => store.getState().move(-1),
    start: () => store.getState().toStart(),
    end: () => store.getState().toEnd(),
    otherMove: (up) => store.getState().sideways(up ? -1 : 1),
    flip: () => store.getState().flip(),
    turningPoint: (back) => jump(beforeTurningPoints, back ? -1 : 1),
    ownError: (back) => jump(ownErrors, back ? -1 : 1),
    noted: (back) => jump(notedPlies(store.getState().view), back ? -1 : 1),
    think: () => set({ thinking: !thinking }),
    threat: () => set({ threats: !threats }),
  });
  // what is open over the Desk closes by it too
  const leave = (): void => {
    store.getState().leaveExcursion();
    store.getState().draw(null);
    store.getState().setPinning(false);
  };
  useDeskShortcuts({ leaveLine: leave }, { preventDefault: false });
  useWritingKeys();
}

/** Moves of the main line at which somebody wrote something. */
export const notedPlies = (view: GameView): number[] =>
  view.line.flatMap(({ comment, before, symbols, marks, lesson, cause }, index) =>
    [comment, before, symbols, marks, lesson, cause].some((written) => written !== undefined)
      ? [index + 1]
      : [],
  );

/** Keys that change the sheet. */
function useWritingKeys(): void {
  const store = useDeskStore();
  const edit = (make: (tree: GameTree, node: NodeId) => Edit | null): void => {
    const { view, node, edit: apply } = store.getState();
    apply(make(view.record.tree, node));
  };
  const write = (field: Writing['field']): void => {
    const { node, write: open } = store.getState();
    if (node !== ROOT || field !== 'before') open({ node, field });
  };
  useDeskShortcuts({
    undo: () => store.getState().undo(),
    redo: () => store.getState().redo(),
    after: () => write('comment'),
    before: () => write('before'),
    lesson: () => write('lesson'),
    up: () => edit(promote),
    down: () => edit(demote),
    mainLine: () => edit(makeMainLine),
    deleteFrom: () => edit(deleteFrom),
    deleteVariation: () => edit(deleteVariation),
    draw: () => store.getState().draw(store.getState().drawing === null ? 'green' : null),
  });

  // signs are typed as they are written, a second one soon after the first
  const earlier = useRef({ sign: '', nag: 0, at: 0, node: ROOT });
  useEffect(() => {
    const onSign = (event: KeyboardEvent): void => {
      const { target, key, ctrlKey, metaKey, altKey } = event;
      if (ctrlKey || metaKey || altKey || (target as Element).matches?.('input, textarea, select'))
        return;
      const { node } = store.getState();
      const { sign, nag: before, at, node: where } = earlier.current;
      const follows = node === where && event.timeStamp - at < SIGN_PAUSE_MS;
      const nag = nagOfKeys(follows ? sign : '', key);
      if (nag === null || node === ROOT) return;
      event.preventDefault();
      earlier.current = { sign: key, nag, at: event.timeStamp, node };
      // the first sign of two is already there and makes room for what both mean
      const { view } = store.getState();
      if (follows && nag === before) return;
      edit((tree) => toggleSymbol(tree, view.has(node) ? node : ROOT, nag));
    };
    window.addEventListener('keydown', onSign);
    return () => window.removeEventListener('keydown', onSign);
  });
}
