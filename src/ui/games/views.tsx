'use client';

import { useState } from 'react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { X } from 'react-bootstrap-icons';
import { filterQuery, type GameFilter } from '@/contract/game-filter';
import {
  isOwnSide,
  libraryHref,
  listQuery,
  removeFilter,
  saveFilter,
  type GameList,
  type Order,
  type SavedFilter,
} from '@/contract/library';
import { OPEN_TO } from '@/core/review/review';
import { call, succeeds } from '../call';
import { useLibraryWords, type ViewName } from './library-words';

interface View {
  filter: GameFilter;
  order: Order;
}
const view = (filter: GameFilter, by: Order['by'], way: Order['way']): View => ({
  filter,
  order: { by, way },
});

/** What players come to look for. */
const VIEWS = {
  worstWins: view({ outcome: 'won', swept: 'yes' }, 'accuracy', 'up'),
  best: view({ swept: 'yes' }, 'accuracy', 'down'),
  letSlip: view({ outcome: 'lost', peak: `${OPEN_TO}..` }, 'peak', 'down'),
  letOffs: view({ letOffs: '1..' }, 'letOffs', 'down'),
  notOpened: view({ opened: 'no', annotated: 'no' }, 'date', 'down'),
  lately: view({ opened: 'yes' }, 'lastOpened', 'down'),
  deleted: view({ deleted: 'yes' }, 'date', 'down'),
} as const satisfies Record<ViewName, View>;

/** Those for games that are somebody else's, and for those of another player. */
const OF_GIVEN = ['worstWins', 'best', 'letSlip', 'letOffs'] as const;
const OF_PLAYER = [...OF_GIVEN, 'notOpened', 'lately'] as const;

/** Filters that are there from the start, and those that the owner has given a name. @param saved none for somebody else's games */
export function Views({ saved, ...list }: GameList & { saved?: readonly SavedFilter[] }) {
  const { filter, order, grant } = list;
  const t = useTranslations('library');
  const words = useLibraryWords(isOwnSide(list));
  const { player, viewpoint } = filter;
  /** Whose games are looked at stays, whatever is looked for among them. */
  const whose = viewpoint && { player, viewpoint };
  const query = listQuery(filter, order).toString();
  const isFiltered = filterQuery(filter).size > 0;
  const names: readonly ViewName[] =
    grant !== null ? OF_GIVEN : viewpoint ? OF_PLAYER : (Object.keys(VIEWS) as ViewName[]);
  const router = useRouter();
  const [naming, setNaming] = useState(false);
  const [failed, setFailed] = useState(false);
  const settle = async (request: Promise<unknown>): Promise<void> => {
    setFailed(!(await succeeds(request)));
    setNaming(false);
    router.refresh();
  };
  const here = libraryHref(filter, order, grant);
  const link = (name: string, to: string) => (
    <Link
      href={to}
      prefetch={false}
      aria-current={to === here ? 'page' : undefined}
      className="view"
    >
      {name}
    </Link>
  );
  return (
    <nav className="views" aria-label={t('views')}>
      <ul>
        {names.map((name) => (
          <li key={name}>
            {link(
              words.view(name),
              libraryHref({ ...whose, ...VIEWS[name].filter }, VIEWS[name].order, grant),
            )}
          </li>
        ))}
        {saved?.map(({ id, name, query: to }) => (
          <li key={id}>
            {link(name, `/?${to}`)}
            <Button
              variant="plain"
              aria-label={t('forget', { name })}
              title={t('forget', { name })}
              onClick={() => void settle(call(removeFilter, { id }))}
            >
              <X aria-hidden="true" />
            </Button>
          </li>
        ))}
      </ul>
      {saved && isFiltered && !naming && (
        <Button variant="plain" onClick={() => setNaming(true)}>
          {t('saveFilter')}
        </Button>
      )}
      {naming && (
        <form
          className="d-flex gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            const name = new FormData(event.currentTarget).get('name');
            if (typeof name === 'string') void settle(call(saveFilter, { body: { name, query } }));
          }}
        >
          <Form.Control
            name="name"
            required
            maxLength={60}
            autoFocus
            aria-label={t('filterName')}
            placeholder={t('filterName')}
            onKeyDown={(event) => event.key === 'Escape' && setNaming(false)}
          />
          <Button type="submit" variant="plain" className="text-nowrap">
            {t('keepFilter')}
          </Button>
        </form>
      )}
      {failed && <span role="alert">{t('failed')}</span>}
    </nav>
  );
}
