'use client';

import { createContext, useCallback, useContext, useSyncExternalStore } from 'react';
import { createStore, useStore, type StoreApi } from 'zustand';
import type { Edit } from '@/core/game/edits';
import { allows, type Right } from '@/contract/rights';
import type { Score } from '@/core/game/score';
import { isRemark } from '@/core/game/remark-step';
import { clash, rebase, rebaseChanges } from '@/core/game/rebase';
import { applySteps, type Step } from '@/core/game/steps';
import { ROOT, type MarkColour, type NodeId } from '@/core/game/tree';
import { placeAt, type BoardPlace } from './board-place';
import {
  documentOf,
  edited,
  redone,
  seen,
  undone,
  type Change,
  type Document,
  type Edited,
} from '../document';
import type { GameView } from '../game-view';

/** A line that is stepped through on the board without being part of the game. */
export interface Excursion {
  /** The node that it leaves from. */
  base: NodeId;
  /** UCI or USI. */
  codes: readonly string[];
  /** How many of its moves are on the board. */
  step: number;
}

/** Words that are being written. */
export interface Writing {
  node: NodeId;
  field: 'before' | 'comment' | 'lesson';
}

/** What others did to the game since the version that the unsaved steps were made for. */
export interface Conflict {
  version: number;
  steps: readonly Step[];
}

export interface DeskState extends Document {
  excursion: Excursion | null;
  flipped: boolean;
  /** The game on the server; null until there is something to keep. */
  gameId: number | null;
  /** What one may do with it. */
  right: Right;
  /** What was done last is more than that, and was not done. */
  isBeyondRight: boolean;
  /** The version that the server holds, and what was done here since. */
  version: number;
  unsaved: readonly Step[];
  conflict: Conflict | null;
  /** Why the server does not take what is unsaved, as it said; null where it does. */
  refused: string | null;
  writing: Writing | null;
  /** The colour that is drawn in while clicks on the board make marks. */
  drawing: MarkColour | null;
  /** A move to be shown as an arrow while it is looked at: a threat. */
  threat: { place: string; code: string } | null;
  /** What the engine that thinks says of a position so far. */
  guess: { place: string; score: Score } | null;
  /** Moves to be weighed against each other, in UCI or USI, where they were pinned. */
  pinned: { place: string; codes: readonly string[] } | null;
  /** Moves made on the board are pinned instead of being put into the sheet. */
  pinning: boolean;
  /** First nodes of variations that are folded up. */
  folded: ReadonlySet<NodeId>;
  /** What is on the board; the same object until that changes. */
  place(): BoardPlace;
  goTo(node: NodeId): void;
  goToPly(ply: number): void;
  /** One move forward or back, in the line or the excursion on the board. */
  move(step: 1 | -1): void;
  /** To the next or previous move that was played or looked at in the same position. */
  sideways(step: 1 | -1): void;
  toStart(): void;
  toEnd(): void;
  follow(base: NodeId, codes: readonly string[], step: number): void;
  leaveExcursion(): void;
  flip(): void;
  edit(edit: Edit | null): void;
  undo(): void;
  redo(): void;
  /** The server has stored the game with the first `count` unsaved steps. */
  kept(gameId: number, count: number, version: number): void;
  /** The server has taken the first `count` unsaved steps. */
  saved(count: number, version: number): void;
  /** Others have changed the game: carried together with what is unsaved where nothing clashes, else left to be settled. */
  changedElsewhere(conflict: Conflict): void;
  /** Settles a conflict: keeps one's own unsaved steps on top of the others' work, or drops them. */
  settle(how: 'merge' | 'drop'): void;
  /** The server does not take what is unsaved. */
  refuse(reason: string): void;
  /** Goes back to the game as the server holds it. */
  takeBackUnsaved(): void;
  write(writing: Writing | null): void;
  draw(colour: MarkColour | null): void;
  showThreat(threat: DeskState['threat']): void;
  showGuess(guess: DeskState['guess']): void;
  fold(variation: NodeId): void;
  /** Pins a move, or takes the pin out again. */
  pin(place: string, code: string): void;
  setPinning(pinning: boolean): void;
}

/** As many candidates as can be weighed side by side. */
export const MOST_PINNED = 4;

export type DeskStore = StoreApi<DeskState>;

/** The game as the server holds it: without an id where it does not hold it yet. */
export type StoredPlace = Pick<DeskState, 'gameId' | 'version' | 'right'>;

export function createDeskStore(
  view: GameView,
  { gameId, version, right }: StoredPlace,
  node: NodeId,
  flipped: boolean,
): DeskStore {
  // the game as the server holds it, for which the unsaved steps were made
  let stored = view.record;
  let shown: { place: BoardPlace; excursion: Excursion | null } | null = null;
  return createStore<DeskState>()((set, get) => {
    const goTo = (target: NodeId): void => set({ node: target, excursion: null });
    const present = (record: GameView['record'], wanted: NodeId): Partial<DeskState> => ({
      ...seen(get().view, record, wanted),
      excursion: null,
    });
    const take = (change: Edited | null): void => {
      if (!change) return;
      const { document, steps } = change;
      // whose the variations are that are taken away, the server knows
      const isRemarkHere = (step: Step): boolean =>
        isRemark(get().view.record.tree, step, () => true);
      const isBeyondRight = right === 'comment' && !steps.every(isRemarkHere);
      if (isBeyondRight) return set({ isBeyondRight });
      set({ ...document, isBeyondRight, excursion: null, unsaved: [...get().unsaved, ...steps] });
    };
    return {
      ...documentOf(view, node),
      excursion: null,
      flipped,
      gameId,
      right,
      isBeyondRight: false,
      version,
      unsaved: [],
      conflict: null,
      refused: null,
      writing: null,
      drawing: null,
      threat: null,
      guess: null,
      pinned: null,
      pinning: false,
      folded: new Set(),
      place() {
        const { view: game, node: current, excursion } = get();
        // a node's position and history never change, whatever is edited beside it
        if (shown?.place.node !== current || shown.excursion !== excursion) {
          const codes = excursion?.codes.slice(0, excursion.step) ?? [];
          shown = { place: placeAt(game, current, codes), excursion };
        }
        return shown.place;
      },
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
      sideways(step) {
        const { view: game, node: current } = get();
        const { parent } = game.node(current);
        if (parent === null) return;
        const { children } = game.node(parent);
        const target = children[children.indexOf(current) + step];
        if (target !== undefined) goTo(target);
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
      edit(edit) {
        if (!edit) return;
        if (edit.steps.length === 0) return goTo(edit.node);
        take(edited(get(), edit));
      },
      undo: () => take(undone(get())),
      redo: () => take(redone(get())),
      kept(id, count, now) {
        set({ gameId: id });
        get().saved(count, now);
      },
      saved(count, now) {
        const { unsaved } = get();
        stored = applySteps(stored, unsaved.slice(0, count));
        set({ unsaved: unsaved.slice(count), version: now });
      },
      changedElsewhere(conflict) {
        if (conflict.version <= get().version) return;
        set({ conflict });
        if (!clash(stored, get().unsaved, conflict.steps)) get().settle('merge');
      },
      settle(how) {
        const { conflict, unsaved, node: at, view: game, done, undone } = get();
        if (!conflict) return;
        const { mine, theirs } = rebase(stored, unsaved, conflict.steps);
        stored = applySteps(stored, conflict.steps);
        const keeps = how === 'merge';
        const record = keeps ? applySteps(stored, mine) : stored;
        /** What can be taken back, or made again, in the game as it is now; the last first. */
        const history = (changes: readonly Change[], by: 'inverse' | 'steps'): Change[] => {
          const order = changes.toReversed();
          const steps = order.map((change) => change[by]);
          return rebaseChanges(game.record, steps, theirs, record)
            .map((rebased, index) => ({ ...order[index]!, [by]: rebased }))
            .reverse();
        };
        // what was dropped can't be taken back
        const isDropped = !keeps && unsaved.length > 0;
        set({
          ...present(record, at),
          version: conflict.version,
          unsaved: keeps ? mine : [],
          conflict: null,
          done: isDropped ? [] : history(done, 'inverse'),
          undone: isDropped ? [] : history(undone, 'steps'),
        });
      },
      refuse: (refused) => set({ refused }),
      takeBackUnsaved() {
        const { node: at } = get();
        set({ ...present(stored, at), unsaved: [], refused: null, done: [], undone: [] });
      },
      write: (writing) => set({ writing }),
      draw: (drawing) => set({ drawing }),
      showThreat: (threat) => set({ threat }),
      showGuess: (guess) => set({ guess }),
      setPinning: (pinning) => set({ pinning }),
      pin(place, code) {
        const { pinned } = get();
        const codes = pinned?.place === place ? pinned.codes : [];
        const others = codes.filter((known) => known !== code);
        const changed =
          others.length < codes.length ? others : [...codes, code].slice(-MOST_PINNED);
        set({ pinned: { place, codes: changed } });
      },
      fold: (variation) =>
        set(({ folded }) => {
          const changed = new Set(folded);
          if (!changed.delete(variation)) changed.add(variation);
          return { folded: changed };
        }),
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

/** Tells nodes that they become the one on the board, or no longer are, and no others: a sheet may show thousands. */
class CurrentNode {
  private readonly listeners = new Map<NodeId, Set<() => void>>();

  constructor(store: DeskStore) {
    store.subscribe((now, before) => {
      if (now.node === before.node) return;
      for (const id of [before.node, now.node])
        for (const listener of [...(this.listeners.get(id) ?? [])]) listener();
    });
  }

  listen(id: NodeId, listener: () => void): () => void {
    const listeners = this.listeners.get(id) ?? new Set();
    this.listeners.set(id, listeners.add(listener));
    return () => {
      listeners.delete(listener);
      if (listeners.size === 0) this.listeners.delete(id);
    };
  }
}

const currentNodes = new WeakMap<DeskStore, CurrentNode>();

/** Whether a node is the one on the board. */
export function useIsCurrent(id: NodeId): boolean {
  const store = useDeskStore();
  const listen = useCallback(
    (listener: () => void) => {
      const current = currentNodes.get(store) ?? new CurrentNode(store);
      currentNodes.set(store, current);
      return current.listen(id, listener);
    },
    [store, id],
  );
  const isCurrent = (): boolean => store.getState().node === id;
  return useSyncExternalStore(listen, isCurrent, isCurrent);
}

/** Whether one may do all with the game that needs a right. */
export const useMay = (needed: Right): boolean => useDesk(({ right }) => allows(right, needed));
