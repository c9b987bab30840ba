'use client';

import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Dropdown from 'react-bootstrap/Dropdown';
import Form from 'react-bootstrap/Form';
import { ArrowDown, ArrowUp } from 'react-bootstrap-icons';
import {
  COLUMNS,
  givenColumns,
  isOwnSide,
  LEFT_COLUMNS,
  USUAL_COLUMNS,
  type GameList,
  type ShownColumn,
} from '@/contract/library';
import { usePreferences } from '../preferences';
import { useLibraryWords } from './library-words';

/** Which columns a list has, and in which order. */
export function ColumnChooser(list: GameList) {
  const t = useTranslations('library');
  const columns = usePreferences((state) => state.columns);
  const set = usePreferences((state) => state.set);
  const all = [...COLUMNS, ...LEFT_COLUMNS];
  const known = (some: readonly ShownColumn[]) => (list.grant === null ? some : givenColumns(some));
  const shown = known(columns);
  const words = useLibraryWords(isOwnSide(list));
  const others = known(all).filter((column) => !columns.includes(column));
  const move = (column: ShownColumn, by: -1 | 1): void => {
    const other = shown[shown.indexOf(column) + by]!;
    const places: Partial<Record<ShownColumn, ShownColumn>> = { [column]: other, [other]: column };
    set({ columns: columns.map((one) => places[one] ?? one) });
  };
  const box = (column: ShownColumn, isShown: boolean) => (
    <Form.Check
      id={`column-${column}`}
      label={words.column(column)}
      checked={isShown}
      // the way to a game
      disabled={column === 'players'}
      onChange={() =>
        set({
          columns: isShown ? columns.filter((one) => one !== column) : [...columns, column],
        })
      }
    />
  );
  return (
    <Dropdown autoClose="outside" align="end">
      <Dropdown.Toggle variant="plain">{t('chooseColumns')}</Dropdown.Toggle>
      <Dropdown.Menu className="column-chooser">
        <ul aria-label={t('shownColumns')}>
          {shown.map((column, index) => (
            <li key={column}>
              {box(column, true)}
              <Button
                variant="plain"
                disabled={index === 0}
                aria-label={t('before', { column: words.column(column) })}
                onClick={() => move(column, -1)}
              >
                <ArrowUp aria-hidden="true" />
              </Button>
              <Button
                variant="plain"
                disabled={index === shown.length - 1}
                aria-label={t('behind', { column: words.column(column) })}
                onClick={() => move(column, 1)}
              >
                <ArrowDown aria-hidden="true" />
              </Button>
            </li>
          ))}
        </ul>
        <ul aria-label={t('otherColumns')}>
          {others.map((column) => (
            <li key={column}>{box(column, false)}</li>
          ))}
        </ul>
        <Button variant="plain" onClick={() => set({ columns: USUAL_COLUMNS })}>
          {t('usualColumns')}
        </Button>
      </Dropdown.Menu>
    </Dropdown>
  );
}
