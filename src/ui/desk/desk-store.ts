'use client';

import { createContext, useContext } from 'react';
import { createStore, useStore, type StoreApi } from 'zustand';
import { ROOT, type NodeId } from '@/core/game/tree';
import type { GameView } from './game-view';

/** A line that is stepped through on the board without being part of the game. */
export interface Excursion {
  /** The node that it leaves from. */
  base: NodeId;
  /** UCI or USI. */
  codes: readonly string[];
  /** How many of its moves are on the board. */
  step: number;
}

export interface DeskState {
  view: GameView;
  node: NodeId;
  excursion: Excursion | null;
  flipped: boolean;
  goTo(node: NodeId): void;
  goToPly(ply: number): void;
  /** One move forward or back, in the line or the excursion on the board. */
  move(step: 1 | -1): void;
  toStart(): void;
  toEnd(): void;
  follow(base: NodeId, codes: readonly string[], step: number): void;
  leaveExcursion(): void;
  flip(): void;
}

export type DeskStore = StoreApi<DeskState>;

export function createDeskStore(view: GameView, node: NodeId, flipped: boolean): DeskStore {
  return createStore<DeskState>()((set, get) => {
    const goTo = (target: NodeId): void => set({ node: target, excursion: null });
    return {
      view,
      node: view.has(node) ? node : ROOT,
      excursion: null,
      flipped,
      goTo,
      goToPly: (ply) => goTo(get().view.nodeAtPly(ply)),
      move(step) {
        const { view: game, node: current, excursion } = get();
        if (excursion) {
          const next = excursion.step + step;
          if (next < 1) set({ node: excursion.base, excursion: null });
          else if (next <= excursion.codes.length) set({ excursion: { ...excursion, step: next } });
          return;
        }
        const { parent, children } = game.node(current);
        const target = step === 1 ? children[0] : parent;
        if (target !== undefined && target !== null) goTo(target);
      },
      toStart: () => goTo(ROOT),
      toEnd() {
        const { view: game, node: current } = get();
        let last = current;
        for (
          let [next] = game.node(last).children;
          next !== undefined;
          [next] = game.node(last).children
        )
          last = next;
        goTo(last);
      },
      follow: (base, codes, step) =>
        set({ node: base, excursion: codes.length > 0 ? { base, codes, step } : null }),
      leaveExcursion: () => set({ excursion: null }),
      flip: () => set(({ flipped: now }) => ({ flipped: !now })),
    };
  });
}

const DeskContext = createContext<DeskStore | null>(null);
export const DeskProvider = DeskContext.Provider;

export function useDeskStore(): DeskStore {
  const store = useContext(DeskContext);
  if (!store) throw new Error('outside a Desk');
  return store;
}

export const useDesk = <T>(select: (state: DeskState) => T): T => useStore(useDeskStore(), select);
