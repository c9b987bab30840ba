'use client';

import { useEffect, useState } from 'react';
import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import { insertLine, insertTree } from '@/core/game/edits';
import { readMoveList } from '@/core/game/read-moves';
import { deskHref } from '../desk-href';
import { saveGame } from '../save-game';
import { newIdFor } from '../document';
import { useDeskStore } from './desk-store';

const MOST_TEXT = 20_000;

/**
 * Text pasted outside a field: moves go into the sheet, with their variations and words; a position is opened, a game in any format
 * is stored and opened. Returns what was wrong with the last paste, or null.
 */
export function usePaste(): string | null {
  const t = useTranslations('position');
  const say = useTranslations('problem');
  const store = useDeskStore();
  const router = useRouter();
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    /** What is no list of moves: read by code that comes when it is needed. */
    const takeIn = async (text: string): Promise<string | null> => {
      const { view, node } = store.getState();
      const { readPasted } = await import('./pasted');
      const pasted = readPasted(view.ruleset.kind, view.positionOf(node), text);
      if ('problem' in pasted) {
        const { code, params } = pasted.problem;
        return t('notPasted', { reason: say(code as 'file.empty', params) });
      }
      if ('continuation' in pasted) {
        const { view: now, edit } = store.getState();
        const { tree } = now.record;
        if (now.has(node)) edit(insertTree(tree, node, pasted.continuation, newIdFor(tree)));
        return null;
      }
      // a position is opened without being stored: it becomes a game when there is something to keep
      if ('position' in pasted) {
        router.push(deskHref(pasted.position.kind, pasted.position.start));
        return null;
      }
      const id = await saveGame(pasted.game);
      if (id === null) return t('failed');
      router.push(`/games/${id}`);
      return null;
    };
    const onPaste = (event: ClipboardEvent): void => {
      if ((event.target as Element).matches?.('input, textarea, select')) return;
      const text = event.clipboardData?.getData('text/plain').trim() ?? '';
      if (text === '' || text.length > MOST_TEXT) return;
      event.preventDefault();
      const { view, node, edit } = store.getState();
      const moves = readMoveList(view.ruleset, view.positionOf(node), text, view.node(node).move);
      if (!moves) return void takeIn(text).then(setProblem, () => setProblem(t('failed')));
      setProblem(null);
      const { tree } = view.record;
      edit(insertLine(tree, node, moves, newIdFor(tree)));
    };
    window.addEventListener('paste', onPaste);
    return () => window.removeEventListener('paste', onPaste);
  }, [store, router, t, say]);
  return problem;
}
