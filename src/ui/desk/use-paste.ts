'use client';

import { useEffect, useState } from 'react';
import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import { insertLine } from '@/core/game/edits';
import { formatOfText, readGames } from '@/core/notation/formats';
import { readMoveList } from '@/core/notation/read-move-text';
import { isRead } from '@/core/notation/reading';
import { saveGame } from '../save-game';
import { newIdFor } from './board-place';
import { useDeskStore } from './desk-store';

const MOST_TEXT = 20_000;

/**
 * Text pasted outside a field: moves become a line of the sheet; a position, or a game in any format, opens as a game of
 * its own. Returns what was wrong with the last paste, or null.
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
      if (!moves) return void openAsGame(text).then(setProblem);
      setProblem(null);
      edit(insertLine(view.record.tree, node, moves, newIdFor(view.record.tree)));
    };
    window.addEventListener('paste', onPaste);
    return () => window.removeEventListener('paste', onPaste);
  }, [store, router, t, say]);
  return problem;
}
