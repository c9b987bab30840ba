'use client';

import { useTranslations } from 'next-intl';
import { movesAhead, type Seen } from '@/core/review/seen';

/** How hard something was to see, in words. */
export function useSeenText(): (seen: Seen) => string {
  const t = useTranslations('finding');
  return ({ plies, deepest }) => {
    if (plies === null) return t('notSeen', { moves: movesAhead(deepest) });
    if (plies === 1) return t('seenAtOnce');
    return plies === 2 ? t('seenWithReply') : t('seen', { moves: movesAhead(plies) });
  };
}
