'use client';

import { useCallback } from 'react';
import { useTranslations } from 'next-intl';
import type { Choice } from '@/contract/game-filter';

/** What a value is called by which games are told apart. */
export function useChoiceName(): (name: Choice, value: string) => string {
  const t = useTranslations('library.values');
  const trends = useTranslations('figures.trends');
  const ends = useTranslations('gameCard.ends');
  return useCallback(
    (name, value) => {
      if (value === 'unknown') return t('unknown');
      if (name === 'trend') return trends(value as 'level');
      if (name === 'end') return ends(value.replaceAll(/[ -]/g, '') as 'time');
      return t(`${name}.${value}` as 'outcome.won');
    },
    [t, trends, ends],
  );
}
