'use client';

import { useMemo } from 'react';
import type { Ruleset } from '@/core/game/ruleset';
import { readLine } from './move-text';
import { useShogiNotation } from './preferences';

/** Moves as they can be typed, in the reader's notation, to show how. */
export function useExampleLine(ruleset: Ruleset): string[] {
  const notation = useShogiNotation();
  return useMemo(
    () =>
      readLine(ruleset, ruleset.start(), ruleset.exampleLine, null, notation).map(({ text }) =>
        text.replace(/^[☗☖]/, ''),
      ),
    [ruleset, notation],
  );
}
