'use client';

import { useCallback } from 'react';
import { useTranslations } from 'next-intl';
import { matePliesToMoves } from '@/core/game/score';
import { allowedMate, missedMate, type MoveReview } from '@/core/review/review';
import { useDesk } from './desk-store';

/** What a move has to do with mates, in words: one that was missed, and one that it lets the other side give. Plies in shogi, moves in chess. */
export function useMateText(): (found: MoveReview) => string[] {
  const t = useTranslations('finding');
  const byMoves = useDesk(({ view }) => view.ruleset.numbering === 'move');
  return useCallback(
    (found) =>
      [
        { name: 'missedMate', plies: missedMate(found) } as const,
        { name: 'allowedMate', plies: allowedMate(found) } as const,
      ].flatMap(({ name, plies }) =>
        plies === null ? [] : [t(name, { count: byMoves ? matePliesToMoves(plies) : plies })],
      ),
    [t, byMoves],
  );
}
