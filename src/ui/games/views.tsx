'use client';

import { useState } from 'react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { X } from 'react-bootstrap-icons';
import type { GameFilter } from '@/contract/game-filter';
import {
  listQuery,
  removeFilter,
  saveFilter,
  type Order,
  type SavedFilter,
} from '@/contract/library';
import { OPEN_TO } from '@/core/review/review';
import { call, succeeds } from '../call';

const view = (filter: GameFilter, by: Order['by'], way: Order['way']): string =>
  listQuery(filter, { by, way }).toString();

/** What players come to look for. */
const VIEWS = {
  worstWins: view({ outcome: 'won', swept: 'yes' }, 'accuracy', 'up'),
  best: view({ swept: 'yes' }, 'accuracy', 'down'),
  letSlip: view({ outcome: 'lost', peak: `${OPEN_TO}..` }, 'peak', 'down'),
  letOffs: view({ letOffs: '1..' }, 'letOffs', 'down'),
  notOpened: view({ opened: 'no', annotated: 'no' }, 'date', 'down'),
  lately: view({ opened: 'yes' }, 'lastOpened', 'down'),
  deleted: view({ deleted: 'yes' }, 'date', 'down'),
} as const;

/** Filters that are there from the start, and those that the owner has given a name. */
export function Views({
  saved,
  query,
  isFiltered,
}: {
  saved: readonly SavedFilter[];
  /** The filter and order of the list, as the address has them. */
  query: string;
  isFiltered: boolean;
}) {
  const t = useTranslations('library');
  const router = useRouter();
  const [naming, setNaming] = useState(false);
  const [failed, setFailed] = useState(false);
  const settle = async (request: Promise<unknown>): Promise<void> => {
    setFailed(!(await succeeds(request)));
    setNaming(false);
    router.refresh();
  };
  const link = (name: string, to: string) => (
    <Link
      href={`/?${to}`}
      prefetch={false}
      aria-current={to === query ? 'page' : undefined}
      className="view"
    >
      {name}
    </Link>
  );
  return (
    <nav className="views" aria-label={t('views')}>
      <ul>
        {(Object.keys(VIEWS) as (keyof typeof VIEWS)[]).map((name) => (
          <li key={name}>{link(t(`view.${name}`), VIEWS[name])}</li>
        ))}
        {saved.map(({ id, name, query: to }) => (
          <li key={id}>
            {link(name, to)}
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
      {isFiltered && !naming && (
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
