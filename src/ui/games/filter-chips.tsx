'use client';

import Link from 'next/link';
import { useTranslations } from 'next-intl';
import { X } from 'react-bootstrap-icons';
import { CHOICE_NAMES, RANGES, readSpan, without, type GameFilter } from '@/contract/game-filter';
import { isOwnSide, libraryHref, type GameList } from '@/contract/library';
import { useChoiceName } from './choice-name';
import { useLibraryWords } from './library-words';

/** What the library is filtered by, each to be let go of. @param names of players and collections that are meant */
export function FilterChips({
  names,
  isSelf = false,
  ...list
}: GameList & {
  names: Readonly<Partial<Record<'player' | 'against' | 'collection', string>>>;
  /** Whether the player that the games are of is the reader. */
  isSelf?: boolean;
}) {
  const { filter, order, grant } = list;
  const words = useLibraryWords(isOwnSide(list));
  const t = useTranslations('library');
  const games = useTranslations('games');
  const choiceName = useChoiceName();
  const span = (name: 'date' | (typeof RANGES)[number]): string => {
    const { from, to } = readSpan(filter[name]!);
    const what = words.column(name);
    if (from === null) return t('chipTo', { what, to: to! });
    return to === null ? t('chipFrom', { what, from }) : t('chipSpan', { what, from, to });
  };
  const chips: { name: keyof GameFilter; text: string }[] = [];
  const add = (name: keyof GameFilter, text: string | undefined): void => {
    if (filter[name] !== undefined && text !== undefined) chips.push({ name, text });
  };
  add('deleted', t('deleted'));
  add('kind', filter.kind && games(filter.kind));
  for (const name of ['player', 'against', 'collection'] as const) add(name, names[name]);
  add(
    'playing',
    filter.playing &&
      names.player &&
      t('chip', { what: names.player, value: choiceName('side', filter.playing) }),
  );
  add('viewpoint', names.player && t('viewpoint', { name: names.player }));
  add('label', filter.label);
  add(
    'opening',
    filter.opening && t('chip', { what: t('columns.opening'), value: filter.opening }),
  );
  add('text', filter.text && t('chipText', { text: filter.text }));
  for (const name of CHOICE_NAMES)
    if (filter[name])
      add(
        name,
        t('chip', {
          what: words.filter(name),
          value: filter[name]
            .split(',')
            .map((value) => choiceName(name, value))
            .join(', '),
        }),
      );
  for (const name of ['date', ...RANGES] as const) if (filter[name]) add(name, span(name));
  if (chips.length === 0) return null;
  return (
    <ul className="chips" aria-label={t('filteredBy')}>
      {chips.map(({ name, text }) => (
        <li key={name}>
          <Link
            href={libraryHref(without(filter, name), order, grant)}
            title={t('letGo', { what: text })}
            aria-label={t('letGo', { what: text })}
          >
            {text} <X aria-hidden="true" />
          </Link>
        </li>
      ))}
      {names.player !== undefined && !isSelf && filter.viewpoint === undefined && (
        <li>
          <Link href={libraryHref({ ...filter, viewpoint: 'player' }, order)}>
            {t('lookFrom', { name: names.player })}
          </Link>
        </li>
      )}
      <li>
        <Link href={libraryHref({}, undefined, grant)}>{games('allAgain')}</Link>
      </li>
    </ul>
  );
}
