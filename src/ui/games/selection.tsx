'use client';

import { useTranslations } from 'next-intl';
import Form from 'react-bootstrap/Form';
import { create } from 'zustand';
import { MOST_CHOSEN, type GameFilter } from '@/contract/game-filter';

interface Selection {
  /** Games chosen one by one. */
  chosen: ReadonlySet<number>;
  /** Instead, all that the filter holds. */
  all: boolean;
  /** How many that would be. */
  held: number;
  choose(ids: readonly number[], isChosen: boolean): void;
  chooseAll(all: boolean): void;
  /** The list is another one. */
  reset(held: number): void;
}

/** Which games of the list are chosen; it lasts while the list is looked at. */
export const useSelection = create<Selection>()((set) => ({
  chosen: new Set(),
  all: false,
  held: 0,
  choose: (ids, isChosen) =>
    set(({ chosen }) => {
      const next = isChosen
        ? [...new Set([...chosen, ...ids])].slice(0, MOST_CHOSEN)
        : [...chosen].filter((id) => !ids.includes(id));
      return { chosen: new Set(next) };
    }),
  chooseAll: (all) => set({ all, chosen: new Set() }),
  reset: (held) => set({ all: false, held }),
}));

export const countOf = ({ all, held, chosen }: Selection): number => (all ? held : chosen.size);

/** The games that are chosen; null: none is. */
export const choiceOf = (
  { all, chosen }: Selection,
  filter: GameFilter,
): (GameFilter & { ids?: number[] }) | null =>
  all
    ? filter
    : chosen.size > 0
      ? { ids: [...chosen], ...(filter.deleted ? { deleted: filter.deleted } : {}) }
      : null;

/** Chooses a game of the list, or lets go of it. */
export function ChooseGame({ id, label }: { id: number; label: string }) {
  const isChosen = useSelection(({ chosen, all }) => all || chosen.has(id));
  const all = useSelection((state) => state.all);
  const choose = useSelection((state) => state.choose);
  return (
    <input
      type="checkbox"
      className="form-check-input"
      aria-label={label}
      checked={isChosen}
      disabled={all}
      onChange={(event) => choose([id], event.target.checked)}
    />
  );
}

/** The same for all games that the list's filter holds. */
export function ChooseAll() {
  const t = useTranslations('games');
  const { all, chosen, chooseAll } = useSelection();
  return (
    <Form.Check
      aria-label={t('chooseAll')}
      title={t('chooseAll')}
      checked={all}
      ref={(box: HTMLInputElement | null) => {
        if (box) box.indeterminate = !all && chosen.size > 0;
      }}
      onChange={(event) => chooseAll(event.target.checked)}
    />
  );
}
