'use client';

import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import {
  CHOICE_NAMES,
  CHOICES,
  filterQuery,
  RANGES,
  readFilter,
  readSpan,
  spanText,
  type Choice,
  type GameFilter,
} from '@/contract/game-filter';
import { isOwnSide, libraryHref, type GameList } from '@/contract/library';
import type { Collection } from '@/contract/collections';
import { GAME_KINDS } from '@/core/game/ruleset';
import { useChoiceName } from './choice-name';
import { useLibraryWords } from './library-words';

interface Props extends GameList {
  /** Those that one can choose from; of somebody else's games there are none. */
  collections?: readonly Collection[];
  labels?: readonly { label: string; games: number }[];
}

/** What only the owner of games finds them by. */
const OWNERS_CHOICES: readonly Choice[] = ['opened'];
const SPANS = ['date', ...RANGES] as const;
const TEXTS = [
  ...([
    'kind',
    'text',
    'player',
    'against',
    'playing',
    'viewpoint',
    'collection',
    'label',
    'opening',
    'deleted',
  ] as const),
];

/** What the form's fields say: spans have a field for each end, choices a box for each value. */
function filterFrom(form: FormData): GameFilter {
  const text = (name: string): string => {
    const value = form.get(name);
    return typeof value === 'string' ? value.trim() : '';
  };
  const query: Record<string, unknown> = {};
  for (const name of TEXTS) query[name] = text(name);
  for (const name of SPANS) {
    const [from, to] = ['from', 'to'].map((end) => text(`${name}.${end}`) || null);
    query[name] = spanText({ from: from!, to: to! });
  }
  for (const name of CHOICE_NAMES) query[name] = form.getAll(name).join(',');
  return readFilter(query);
}

/** By what the library is searched: a line of what is asked most, and behind it all else. */
export function FilterForm({ collections = [], labels = [], ...list }: Props) {
  const { filter, order, grant } = list;
  const t = useTranslations('library');
  const games = useTranslations('games');
  const choiceName = useChoiceName();
  const router = useRouter();
  const words = useLibraryWords(isOwnSide(list));
  const choices = CHOICE_NAMES.filter((name) => grant === null || !OWNERS_CHOICES.includes(name));
  const count = ([...SPANS, ...CHOICE_NAMES, 'opening'] as const).filter(
    (name) => filter[name] !== undefined,
  ).length;
  const span = (name: (typeof SPANS)[number]) => {
    const { from, to } = readSpan(filter[name] ?? '..');
    const isDate = name === 'date';
    return (
      <div key={name} className="filter-span" role="group" aria-labelledby={`filter-${name}`}>
        <span className="filter-name" id={`filter-${name}`}>
          {words.column(name)}
        </span>
        {(['from', 'to'] as const).map((end) => (
          <Form.Control
            key={end}
            name={`${name}.${end}`}
            defaultValue={(end === 'from' ? from : to) ?? ''}
            placeholder={t(isDate ? `${end}Date` : end)}
            aria-label={t(end)}
            {...(isDate
              ? { pattern: '\\d{4}(-\\d\\d){0,2}', title: t('dateHint') }
              : { type: 'number', step: 'any', min: 0, max: 99999 })}
          />
        ))}
      </div>
    );
  };
  return (
    <form
      key={filterQuery(filter).toString()}
      className="filter-form"
      role="search"
      onSubmit={(event) => {
        event.preventDefault();
        router.push(libraryHref(filterFrom(new FormData(event.currentTarget)), order, grant));
      }}
    >
      <div className="search-form">
        {(['player', 'against', 'playing', 'viewpoint', 'deleted'] as const).map(
          (name) =>
            filter[name] !== undefined && (
              <input key={name} type="hidden" name={name} value={filter[name]} />
            ),
        )}
        <Form.Select name="kind" defaultValue={filter.kind ?? ''} aria-label={games('kind')}>
          <option value="">{games('both')}</option>
          {GAME_KINDS.map((one) => (
            <option key={one} value={one}>
              {games(one)}
            </option>
          ))}
        </Form.Select>
        {collections.length > 0 && (
          <Form.Select
            name="collection"
            defaultValue={filter.collection ?? ''}
            aria-label={games('collection')}
          >
            <option value="">{games('anyCollection')}</option>
            {collections.map(({ id, name, games: count }) => (
              <option key={id} value={id}>
                {games('inCollection', { name, count })}
              </option>
            ))}
          </Form.Select>
        )}
        {labels.length > 0 && (
          <Form.Select name="label" defaultValue={filter.label ?? ''} aria-label={t('label')}>
            <option value="">{t('anyLabel')}</option>
            {labels.map(({ label, games: count }) => (
              <option key={label} value={label}>
                {games('inCollection', { name: label, count })}
              </option>
            ))}
          </Form.Select>
        )}
        <Form.Control
          name="text"
          defaultValue={filter.text}
          placeholder={games('search')}
          aria-label={games('search')}
        />
        <Button type="submit" variant="plain" className="text-nowrap">
          {games('find')}
        </Button>
      </div>
      <details>
        <summary>{count > 0 ? t('moreFiltersOn', { count }) : t('moreFilters')}</summary>
        <div className="filter-facts">
          <label className="filter-choice">
            <span className="filter-name">{t('columns.opening')}</span>
            <Form.Control
              name="opening"
              defaultValue={filter.opening}
              placeholder={t('openingHint')}
              maxLength={60}
            />
          </label>
          {choices.map((name) => (
            <div
              key={name}
              className="filter-choice"
              role="group"
              aria-labelledby={`filter-${name}`}
            >
              <span className="filter-name" id={`filter-${name}`}>
                {words.filter(name)}
              </span>
              <div>
                {CHOICES[name].map((value) => (
                  <Form.Check
                    key={value}
                    id={`${name}-${value}`}
                    inline
                    name={name}
                    value={value}
                    label={choiceName(name, value)}
                    defaultChecked={filter[name]?.split(',').includes(value)}
                  />
                ))}
              </div>
            </div>
          ))}
          {SPANS.map(span)}
          <Button type="submit" variant="seal">
            {games('find')}
          </Button>
        </div>
      </details>
    </form>
  );
}
