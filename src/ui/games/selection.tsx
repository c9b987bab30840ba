'use client';

import { useTranslations } from 'next-intl';
import Form from 'react-bootstrap/Form';
import { create } from 'zustand';
import { MOST_CHOSEN } from '@/contract/batches';

interface Selection {
  /** Games chosen one by one, on whatever page of the list. */
  chosen: ReadonlySet<number>;
  choose(ids: readonly number[], isChosen: boolean): void;
}

/** Which games of the list are chosen; it lasts while the list is looked at. */
export const useSelection = create<Selection>()((set) => ({
  chosen: new Set(),
  choose: (ids, isChosen) =>
    set(({ chosen }) => {
      const next = isChosen
        ? [...new Set([...chosen, ...ids])].slice(0, MOST_CHOSEN)
        : [...chosen].filter((id) => !ids.includes(id));
      return { chosen: new Set(next) };
    }),
}));

/** Chooses a game of the list, or lets go of it. */
export function ChooseGame({ id, label }: { id: number; label: string }) {
  const isChosen = useSelection(({ chosen }) => chosen.has(id));
  const choose = useSelection((state) => state.choose);
  return (
    <Form.Check
      aria-label={label}
      checked={isChosen}
      onChange={(event) => choose([id], event.target.checked)}
    />
  );
}

/** The same for all games of a page. */
export function ChooseAll({ ids }: { ids: readonly number[] }) {
  const t = useTranslations('games');
  const chosen = useSelection((state) => state.chosen);
  const choose = useSelection((state) => state.choose);
  const count = ids.filter((id) => chosen.has(id)).length;
  return (
    <Form.Check
      aria-label={t('chooseAll')}
      title={t('chooseAll')}
      checked={count > 0 && count === ids.length}
      ref={(box: HTMLInputElement | null) => {
        if (box) box.indeterminate = count > 0 && count < ids.length;
      }}
      onChange={(event) => choose(ids, event.target.checked)}
    />
  );
}
