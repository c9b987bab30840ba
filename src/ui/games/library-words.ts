import { useCallback } from 'react';
import { useTranslations } from 'next-intl';
import type { Choice } from '@/contract/game-filter';
import type { ShownColumn } from '@/contract/library';

/** Ways to look at games that are there from the start. */
export type ViewName =
  'worstWins' | 'best' | 'letSlip' | 'letOffs' | 'notOpened' | 'lately' | 'deleted';

const OTHERS = ['outcome', 'side', 'rating', 'worstWins', 'best'] as const;
const otherOf = (name: string) => OTHERS.find((other) => other === name);

/** What columns, filters and ways to look at games are called. @param isOwn whether what is one side's is the reader's */
export function useLibraryWords(isOwn: boolean) {
  const t = useTranslations('library');
  const word = useCallback(
    (group: 'columns' | 'filters' | 'view', name: string): string => {
      const other = isOwn ? undefined : otherOf(name);
      // the result is nobody's in a table: it is in the one of both sides
      if (other && !(group === 'columns' && other === 'outcome')) return t(`ofAnother.${other}`);
      return t(`${group}.${name}` as 'columns.date');
    },
    [isOwn, t],
  );
  return {
    column: (name: ShownColumn): string => word('columns', name),
    filter: (name: Choice): string => word('filters', name),
    view: (name: ViewName): string => word('view', name),
  };
}
