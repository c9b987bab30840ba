'use client';

import { useCallback } from 'react';
import { useTranslations } from 'next-intl';
import type { Ruleset, Side } from '@/core/game/ruleset';

/** What a game's sides are called. */
export function useSideName({ kind, sides }: Ruleset): (side: Side) => string {
  const t = useTranslations('sides');
  return useCallback((side) => t(`${kind}.${sides[side]}`), [t, kind, sides]);
}
