'use client';

import { useState } from 'react';
import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import {
  changeCollection,
  makeCollection,
  removeCollection,
  type Collection,
} from '@/contract/collections';
import { call } from '../call';
import { useSelection } from './selection';

interface Props {
  collections: readonly Collection[];
  /** The one that the list is of; null: any. */
  current: Collection | null;
}

/** Puts the games that are chosen into a collection, one that is there or a new one, and takes them out again. */
export function CollectionTools({ collections, current }: Props) {
  const t = useTranslations('collections');
  const router = useRouter();
  const chosen = useSelection((state) => state.chosen);
  const choose = useSelection((state) => state.choose);
  const [name, setName] = useState('');
  const [told, setTold] = useState<string | null>(null);
  const [failed, setFailed] = useState(false);
  const games = [...chosen];
  const change = async (act: () => Promise<string>): Promise<void> => {
    setTold(null);
    try {
      setTold(await act());
      setFailed(false);
    } catch {
      setFailed(true);
    }
    router.refresh();
  };
  const put = (): Promise<void> =>
    change(async () => {
      const wanted = name.trim();
      const known = collections.find((one) => one.name === wanted);
      const { id } = known ?? (await call(makeCollection, { body: { name: wanted } }));
      const { games: count } = await call(changeCollection, {
        id,
        body: { add: games, remove: [] },
      });
      setName('');
      choose(games, false);
      return t('isIn', { name: wanted, count });
    });
  const takeOut = ({ id, name: from }: Collection): Promise<void> =>
    change(async () => {
      await call(changeCollection, { id, body: { add: [], remove: games } });
      choose(games, false);
      return t('isOut', { name: from });
    });
  const remove = async ({ id }: Collection): Promise<void> => {
    await change(async () => {
      await call(removeCollection, { id });
      return '';
    });
    router.push('/');
  };
  return (
    <div className="d-flex gap-2 align-items-center flex-wrap">
      {games.length > 0 && (
        <form
          className="d-flex gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void put();
          }}
        >
          <Form.Control
            value={name}
            required
            maxLength={80}
            list="collections"
            placeholder={t('name')}
            aria-label={t('name')}
            onChange={({ target }) => setName(target.value)}
          />
          <datalist id="collections">
            {collections.map((one) => (
              <option key={one.id} value={one.name} />
            ))}
          </datalist>
          <Button type="submit" variant="plain" className="text-nowrap">
            {t('put', { count: games.length })}
          </Button>
        </form>
      )}
      {current && games.length > 0 && (
        <Button variant="plain" onClick={() => void takeOut(current)}>
          {t('takeOut', { name: current.name })}
        </Button>
      )}
      {current && games.length === 0 && (
        <Button variant="plain" onClick={() => void remove(current)}>
          {t('remove', { name: current.name })}
        </Button>
      )}
      <span role="status">{told}</span>
      {failed && <span role="alert">{t('failed')}</span>}
    </div>
  );
}
