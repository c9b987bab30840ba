'use client';

import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { BaseFilterQuery } from '@/contract/bases';
import { RESULTS } from '@/core/game/result';
import type { GameKind } from '@/core/game/ruleset';
import { TIME_CLASSES } from '@/core/game/time-class';
import { usePreferences } from '../preferences';
import { resultKey } from '../result-key';
import { SpanField } from '../span-field';

export const isFiltered = (filter: BaseFilterQuery): boolean =>
  Object.values(filter).some((value) => value !== undefined);

const SPANS = ['rating', 'years'] as const;

/** Which games of the bases count. */
export function BaseFilterForm({ kind }: { kind: GameKind }) {
  const t = useTranslations('base');
  const values = useTranslations('library.values');
  const results = useTranslations('results');
  const filter = usePreferences((state) => state.baseFilter);
  const set = usePreferences((state) => state.set);
  const change = (changed: Partial<BaseFilterQuery>): void => {
    const all = Object.entries({ ...filter, ...changed });
    set({ baseFilter: Object.fromEntries(all.filter(([, value]) => value !== undefined)) });
  };
  const choice = (
    name: 'timeClass' | 'rated' | 'result' | 'fromStart',
    options: readonly (readonly [value: string, label: string])[],
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
        <option value="">{t('filter.any')}</option>
        {options.map(([value, label]) => (
          <option key={value} value={value}>
            {label}
          </option>
        ))}
      </Form.Select>
    </label>
  );
  return (
    <details className="base-filter small">
      <summary className="soft">
        {isFiltered(filter)
          ? t('filter.on', { count: Object.keys(filter).length })
          : t('filter.off')}
      </summary>
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
        {choice('fromStart', [['yes', t('filter.onlyFromStart')]])}
        {isFiltered(filter) && (
          <Button variant="plain" size="sm" onClick={() => set({ baseFilter: {} })}>
            {t('filter.clear')}
          </Button>
        )}
      </div>
    </details>
  );
}
