'use client';

import { insertFrom, type BoardPlace } from './board-place';
import { useDeskStore } from './desk-store';

/** What can be done with a move from what is on the board, in UCI or USI. */
export function useMoveHere(place: BoardPlace): {
  /** On the board: in the sheet where it has the move, else beside it. */
  play(code: string): void;
  /** Puts a line that begins there into the sheet. */
  insert(codes: readonly string[]): void;
} {
  const store = useDeskStore();
  return {
    play(code) {
      const { view, follow, goTo } = store.getState();
      const known =
        place.way.length > 0
          ? undefined
          : view
              .node(place.node)
              .children.find((child) => view.ruleset.code(view.node(child).move) === code);
      if (known !== undefined) goTo(known);
      else follow(place.node, [...place.way, code], place.way.length + 1);
    },
    insert(codes) {
      const { view, edit } = store.getState();
      edit({ ...insertFrom(view.record, place, codes), node: place.node });
    },
  };
}
