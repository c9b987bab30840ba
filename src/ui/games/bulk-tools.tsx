'use client';

import { useState } from 'react';
import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { makeCollection, removeCollection, type Collection } from '@/contract/collections';
import type { GameFilter } from '@/contract/game-filter';
import { changeGames } from '@/contract/library';
import { call } from '../call';
import { choiceOf, countOf, useSelection } from './selection';

interface Props {
  filter: GameFilter;
  collections: readonly Collection[];
  labels: readonly { label: string }[];
  /** The collection that the list is of; null: any. */
  current: Collection | null;
  /** When games were deleted from which one comes here. */
  gone: string | null;
}

type Doing =
  | { do: 'label' | 'unlabel'; label: string }
  | { do: 'put' | 'takeOut'; collection: number }
  | { do: 'delete' | 'restore' };

/** What can be done with the games that are chosen: put into collections, tagged, deleted and brought back. */
export function BulkTools({ filter, collections, labels, current, gone }: Props) {
  const t = useTranslations('collections');
  const library = useTranslations('library');
  const router = useRouter();
  const selection = useSelection();
  const count = countOf(selection);
  const [told, setTold] = useState<string | null>(null);
  const [failed, setFailed] = useState(false);
  /** When games were deleted last, by which they can be brought back. */
  const [deletedAt, setDeletedAt] = useState(gone);
  const act = async (work: () => Promise<string>): Promise<void> => {
    setTold(null);
    setFailed(false);
    try {
      setTold(await work());
      selection.chooseAll(false);
    } catch {
      setFailed(true);
    }
    router.refresh();
  };
  const change = async (doing: Doing, games = choiceOf(selection, filter)) =>
    games === null
      ? { games: 0, deleted: null }
      : call(changeGames, { body: { games, change: doing } });

  const put = (name: string): Promise<void> =>
    act(async () => {
      const wanted = name.trim().replaceAll(/\s+/g, ' ');
      const known = collections.find((one) => one.name === wanted);
      const { id } = known ?? (await call(makeCollection, { body: { name: wanted } }));
      const { games: count } = await change({ do: 'put', collection: id });
      return t('isIn', { name: wanted, count });
    });
  const tag = (label: string, on: boolean): Promise<void> =>
    act(async () => {
      const { games } = await change({ do: on ? 'label' : 'unlabel', label });
      return library(on ? 'tagged' : 'untagged', { label: label.trim(), count: games });
    });
  const remove = (): Promise<void> =>
    act(async () => {
      const { games, deleted } = await change({ do: 'delete' });
      setDeletedAt(deleted);
      return library('areDeleted', { count: games });
    });
  const restore = (games?: GameFilter): Promise<void> =>
    act(async () => {
      const { games: count } = await change({ do: 'restore' }, games);
      setDeletedAt(null);
      if (gone !== null) forgetGone();
      return library('areBack', { count });
    });
  /** Nothing is gone any more: a reload is not to say so. */
  const forgetGone = (): void => {
    const { pathname, search } = window.location;
    const query = new URLSearchParams(search);
    query.delete('gone');
    router.replace(query.size > 0 ? `${pathname}?${query}` : pathname);
  };
  const removeCurrent = async ({ id }: Collection): Promise<void> => {
    await act(async () => {
      await call(removeCollection, { id });
      return '';
    });
    router.push('/');
  };
  return (
    <div className="bulk-tools" role="group" aria-label={library('chosen', { count })}>
      {count > 0 && <strong>{library('chosen', { count })}</strong>}
      {count > 0 && filter.deleted === undefined && (
        <>
          <NameForm
            label={t('name')}
            known={collections.map(({ name }) => name)}
            most={80}
            action={t('put', { count })}
            onName={(name) => void put(name)}
          />
          {current && (
            <Button
              variant="plain"
              onClick={() =>
                void act(async () => {
                  await change({ do: 'takeOut', collection: current.id });
                  return t('isOut', { name: current.name });
                })
              }
            >
              {t('takeOut', { name: current.name })}
            </Button>
          )}
          <NameForm
            label={library('labelName')}
            known={labels.map(({ label }) => label)}
            most={40}
            action={library('tag')}
            other={library('untag')}
            onName={(name, isOther) => void tag(name, !isOther)}
          />
          <Button variant="plain" onClick={() => void remove()}>
            {library('delete')}
          </Button>
        </>
      )}
      {count > 0 && filter.deleted !== undefined && (
        <Button variant="plain" onClick={() => void restore()}>
          {library('restore')}
        </Button>
      )}
      {current && count === 0 && (
        <Button variant="plain" onClick={() => void removeCurrent(current)}>
          {t('remove', { name: current.name })}
        </Button>
      )}
      <span role="status">{told ?? (deletedAt === null ? '' : library('areGone'))}</span>
      {deletedAt !== null && (
        <Button variant="plain" onClick={() => void restore({ deleted: deletedAt })}>
          {library('undo')}
        </Button>
      )}
      {failed && <span role="alert">{t('failed')}</span>}
    </div>
  );
}

/** A name that is there already or a new one, and what is done with it. */
function NameForm({
  label,
  known,
  most,
  action,
  other,
  onName,
}: {
  label: string;
  known: readonly string[];
  /** Letters that it may have. */
  most: number;
  action: string;
  other?: string;
  onName(name: string, isOther: boolean): void;
}) {
  const [name, setName] = useState('');
  const list = `known ${label}`;
  const act = (isOther: boolean): void => {
    if (name.trim() === '') return;
    onName(name, isOther);
    setName('');
  };
  return (
    <form
      className="d-flex gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        act(false);
      }}
    >
      <Form.Control
        value={name}
        required
        maxLength={most}
        list={list}
        placeholder={label}
        aria-label={label}
        onChange={({ target }) => setName(target.value)}
      />
      <datalist id={list}>
        {known.map((one) => (
          <option key={one} value={one} />
        ))}
      </datalist>
      <Button type="submit" variant="plain" className="text-nowrap">
        {action}
      </Button>
      {other !== undefined && (
        <Button variant="plain" className="text-nowrap" onClick={() => act(true)}>
          {other}
        </Button>
      )}
    </form>
  );
}
