'use client';

import dynamic from 'next/dynamic';
import { useTranslations } from 'next-intl';
import type { GameFilter } from '@/contract/game-filter';
import { ToolMenu } from '../tool-menu';
import { countOf, useSelection } from './selection';

// the formats' readers and writers come when they are needed
const TakeOutItems = dynamic(() => import('./take-out-items'), { ssr: false });

/** The games that are chosen, or all of the list, as a file. @param count of the list */
export function TakeOut({ filter, count }: { filter: GameFilter; count: number }) {
  const t = useTranslations('games');
  const chosen = useSelection(countOf);
  return (
    <ToolMenu
      text={chosen > 0 ? t('takeOutChosen', { count: chosen }) : t('takeOut', { count })}
      className="take-out"
    >
      <TakeOutItems filter={filter} />
    </ToolMenu>
  );
}
