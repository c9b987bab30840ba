'use client';

import { useId } from 'react';
import { useQuery } from '@tanstack/react-query';
import { useTranslations } from 'next-intl';
import Form from 'react-bootstrap/Form';
import type { Collection } from '@/contract/collections';
import { listPlayers } from '@/contract/players';
import { call } from '../call';

/** Where the games of files go. */
export interface Wishes {
  /** Id of a collection, or nothing. */
  collection: string;
  /** Tags with commas between them. */
  labels: string;
  /** Name of the player whose games they are. */
  player: string;
  /** That player's id; null where nobody has the name. */
  playerId: number | null;
}

export const NO_WISHES: Wishes = { collection: '', labels: '', player: '', playerId: null };

/** As the address of a file that is sent has them. */
export const wishesQuery = ({ collection, labels, playerId }: Wishes): [string, string][] => [
  ...(collection === '' ? [] : [['collection', collection] as [string, string]]),
  ...labels
    .split(',')
    .map((label) => label.trim())
    .filter(Boolean)
    .map((label): [string, string] => ['label', label]),
  ...(playerId === null ? [] : [['player', String(playerId)] as [string, string]]),
];

/** Where the games of the next files go: a collection, tags, and whose they are. */
export function ImportWishesForm({
  wishes,
  collections,
  onChange,
}: {
  wishes: Wishes;
  collections: readonly Collection[];
  onChange(wishes: Wishes): void;
}) {
  const t = useTranslations('import');
  const names = useId();
  const { data } = useQuery({ queryKey: ['players'], queryFn: () => call(listPlayers) });
  const players = data?.players ?? [];
  const isUnknown = wishes.player !== '' && data !== undefined && wishes.playerId === null;
  return (
    <div className="import-wishes" role="group" aria-label={t('wishes')}>
      <label>
        <span className="soft">{t('intoCollection')}</span>
        <Form.Select
          value={wishes.collection}
          onChange={({ target }) => onChange({ ...wishes, collection: target.value })}
        >
          <option value="">{t('noCollection')}</option>
          {collections.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </Form.Select>
      </label>
      <label>
        <span className="soft">{t('withTags')}</span>
        <Form.Control
          value={wishes.labels}
          placeholder={t('tagsHint')}
          onChange={({ target }) => onChange({ ...wishes, labels: target.value })}
        />
      </label>
      <label>
        <span className="soft">{t('whose')}</span>
        <Form.Control
          value={wishes.player}
          list={names}
          placeholder={t('whoseHint')}
          isInvalid={isUnknown}
          onChange={({ target }) => {
            const player = target.value;
            const playerId = players.find(({ name }) => name === player)?.id ?? null;
            onChange({ ...wishes, player, playerId });
          }}
        />
        <datalist id={names}>
          {players.map(({ id, name }) => (
            <option key={id} value={name} />
          ))}
        </datalist>
        {isUnknown && <span role="alert">{t('nobody')}</span>}
      </label>
    </div>
  );
}
