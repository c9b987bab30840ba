'use client';

import { useDeferredValue, useId, useState } from 'react';
import { useTranslations } from 'next-intl';
import { useQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { findBasePlayers, type Base, type BaseFilterQuery } from '@/contract/bases';
import { RESULTS } from '@/core/game/result';
import type { Side } from '@/core/game/ruleset';
import { TIME_CLASSES } from '@/core/game/time-class';
import { rulesetOf } from '@/core/rulesets';
import { call } from '../call';
import { resultKey } from '../result-key';
import { useSideName } from '../side-name';
import { SpanField } from '../span-field';

export const isFiltered = (filter: BaseFilterQuery): boolean =>
  Object.values(filter).some((value) => value !== undefined);

const FRESH_MS = 60_000;
const SPANS = ['rating', 'years'] as const;

/** Which games of bases count. */
export function BaseFilterForm({
  base: { id, kind },
  filter,
  summary,
  startsOpen = false,
  onChange,
}: {
  /** Of whose players names are offered. */
  base: Base;
  filter: BaseFilterQuery;
  summary: string;
  startsOpen?: boolean;
  onChange(filter: BaseFilterQuery): void;
}) {
  const t = useTranslations('base');
  const values = useTranslations('library.values');
  const results = useTranslations('results');
  const sideName = useSideName(rulesetOf(kind));
  const change = (changed: Partial<BaseFilterQuery>): void => {
    const all = Object.entries({ ...filter, ...changed });
    onChange(Object.fromEntries(all.filter(([, value]) => value !== undefined)));
  };
  const choice = (
    name: 'timeClass' | 'rated' | 'result' | 'side' | 'fromStart' | 'reversed',
    options: readonly (readonly [value: string, label: string])[],
    other = t('filter.any'),
  ) => (
    <label>
      <span>{t(`filter.${name}`)}</span>
      <Form.Select
        size="sm"
        value={filter[name] ?? ''}
        onChange={({ target }) =>
          change({ [name]: target.value === '' ? undefined : target.value })
        }
      >
        <option value="">{other}</option>
        {options.map(([value, label]) => (
          <option key={value} value={value}>
            {label}
          </option>
        ))}
      </Form.Select>
    </label>
  );
  return (
    <details className="base-filter small" open={startsOpen || undefined}>
      <summary className="soft">{summary}</summary>
      <div className="fields">
        {SPANS.map((name) => (
          <SpanField
            // another value from elsewhere begins anew
            key={`${name} ${filter[name] ?? ''}`}
            label={t(`filter.${name}`)}
            value={filter[name]}
            onChange={(value) => change({ [name]: value })}
          />
        ))}
        {choice(
          'timeClass',
          TIME_CLASSES.map((value) => [value, values(`timeClass.${value}`)]),
        )}
        {choice('rated', [
          ['yes', values('rated.yes')],
          ['no', values('rated.no')],
        ])}
        {choice(
          'result',
          RESULTS.filter((result) => result !== '*').map((result) => [
            result,
            results(resultKey({ kind, handicap: null }, result)),
          ]),
        )}
        <PlayerField
          key={`player ${filter.player ?? ''}`}
          baseId={id}
          value={filter.player}
          onChange={(player) =>
            change({ player, side: player === undefined ? undefined : filter.side })
          }
        />
        {filter.player !== undefined &&
          choice(
            'side',
            (['first', 'second'] as const).map((side, index) => [side, sideName(index as Side)]),
          )}
        {choice('fromStart', [['yes', t('filter.onlyFromStart')]])}
        {choice('reversed', [['yes', t('filter.alsoReversed')]], t('filter.asIs'))}
        {isFiltered(filter) && (
          <Button variant="plain" size="sm" onClick={() => onChange({})}>
            {t('filter.clear')}
          </Button>
        )}
      </div>
    </details>
  );
}

/** A player by name; those of the base whose names hold what is typed are offered. */
function PlayerField({
  baseId,
  value,
  onChange,
}: {
  baseId: number;
  value: string | undefined;
  onChange(value: string | undefined): void;
}) {
  const t = useTranslations('base');
  const [typed, setTyped] = useState(value ?? '');
  const name = typed.trim();
  const asked = useDeferredValue(name);
  const { data: names } = useQuery({
    queryKey: ['bases', 'players', baseId, asked],
    queryFn: () => call(findBasePlayers, { id: baseId, query: { name: asked } }),
    enabled: asked !== '' && asked !== value,
    staleTime: FRESH_MS,
    placeholderData: (before) => before,
  });
  const listId = useId();
  const keep = (): void => onChange(name === '' ? undefined : name);
  return (
    <label>
      <span>{t('filter.player')}</span>
      <Form.Control
        size="sm"
        maxLength={100}
        list={listId}
        value={typed}
        onChange={({ target }) => setTyped(target.value)}
        onBlur={keep}
        onKeyDown={({ key }) => key === 'Enter' && keep()}
      />
      <datalist id={listId}>
        {names?.map((one) => (
          <option key={one} value={one} />
        ))}
      </datalist>
    </label>
  );
}
