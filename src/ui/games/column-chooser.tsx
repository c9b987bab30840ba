'use client';

import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Dropdown from 'react-bootstrap/Dropdown';
import Form from 'react-bootstrap/Form';
import { ArrowDown, ArrowUp } from 'react-bootstrap-icons';
import {
  COLUMNS,
  givenColumns,
  LEFT_COLUMNS,
  USUAL_COLUMNS,
  type ShownColumn,
} from '@/contract/library';
import { usePreferences } from '../preferences';

/** Which columns the library has, and in which order. @param isGiven of somebody else's games: some are not shown of these */
export function ColumnChooser({ isGiven = false }: { isGiven?: boolean }) {
  const t = useTranslations('library');
  const columns = usePreferences((state) => state.columns);
  const set = usePreferences((state) => state.set);
  const all = [...COLUMNS, ...LEFT_COLUMNS];
  const known = isGiven ? givenColumns(all) : all;
  const others = known.filter((column) => !columns.includes(column));
  const move = (column: ShownColumn, by: -1 | 1): void => {
    const next = columns.filter((one) => one !== column);
    next.splice(columns.indexOf(column) + by, 0, column);
    set({ columns: next });
  };
  const box = (column: ShownColumn, isShown: boolean) => (
    <Form.Check
      id={`column-${column}`}
      label={t(`columns.${column}`)}
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
          {columns.map((column, index) => (
            <li key={column}>
              {box(column, true)}
              <Button
                variant="plain"
                disabled={index === 0}
                aria-label={t('before', { column: t(`columns.${column}`) })}
                onClick={() => move(column, -1)}
              >
                <ArrowUp aria-hidden="true" />
              </Button>
              <Button
                variant="plain"
                disabled={index === columns.length - 1}
                aria-label={t('behind', { column: t(`columns.${column}`) })}
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
