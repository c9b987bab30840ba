'use client';

import { useEffect } from 'react';
import { useRouter } from 'next/navigation';
import { insertLine } from '@/core/game/edits';
import { readMoveList } from '@/core/notation/read-move-text';
import { newIdFor, useDeskStore } from './desk-store';
import { storePosition } from './store-position';

/** Text pasted outside a field: moves become a line of the sheet, a position a game of its own. */
export function usePaste(): void {
  const store = useDeskStore();
  const router = useRouter();
  useEffect(() => {
    const onPaste = (event: ClipboardEvent): void => {
      if ((event.target as Element).matches?.('input, textarea, select')) return;
      const text = event.clipboardData?.getData('text/plain').trim() ?? '';
      const { view, node, edit } = store.getState();
      if (text === '' || text.length > 20_000) return;
      event.preventDefault();
      const moves = readMoveList(view.ruleset, view.positionOf(node), text);
      if (moves) return edit(insertLine(view.record.tree, node, moves, newIdFor(view)));
      void storePosition(text).then((id) => id !== null && router.push(`/games/${id}`));
    };
    window.addEventListener('paste', onPaste);
    return () => window.removeEventListener('paste', onPaste);
  }, [store, router]);
}
