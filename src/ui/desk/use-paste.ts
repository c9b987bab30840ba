'use client';

import { useEffect, useState } from 'react';
import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import { insertLine, insertTree } from '@/core/game/edits';
import { formatOfText, readGames } from '@/core/notation/formats';
import { readContinuation } from '@/core/notation/read-continuation';
import { readMoveList } from '@/core/game/read-moves';
import { isRead } from '@/core/notation/reading';
import { deskHref } from '../desk-href';
import { saveGame } from '../save-game';
import { newIdFor } from './board-place';
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
    const openAsGame = async (text: string): Promise<string | null> => {
      const format = formatOfText(text);
      const reading = format && [...readGames(text, format)][0];
      if (!reading) return t('notPasted', { reason: say('file.format') });
      // a position is opened without being stored: it becomes a game when there is something to keep
      if (isRead(reading) && reading.record.tree.nodes.size === 1) {
        const { kind, start } = reading.record.tree;
        router.push(deskHref(kind, start));
        return null;
      }
      if (!isRead(reading)) {
        const { code, params } = reading.problem;
        return t('notPasted', { reason: say(code as 'file.empty', params) });
      }
      const id = await saveGame(reading.record);
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
      const { tree } = view.record;
      const newId = newIdFor(tree);
      const others = moves ? null : readContinuation(tree.kind, view.positionOf(node), text);
      if (!moves && !others) return void openAsGame(text).then(setProblem);
      setProblem(null);
      edit(moves ? insertLine(tree, node, moves, newId) : insertTree(tree, node, others!, newId));
    };
    window.addEventListener('paste', onPaste);
    return () => window.removeEventListener('paste', onPaste);
  }, [store, router, t, say]);
  return problem;
}
