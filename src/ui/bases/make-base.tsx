'use client';

import { useState } from 'react';
import { useTranslations } from 'next-intl';
import { useQueryClient } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { makeBase } from '@/contract/bases';
import type { Collection } from '@/contract/collections';
import { GAME_KINDS, type GameKind } from '@/core/game/ruleset';
import { call, Refused } from '../call';
import { refreshQueries } from '../refresh-queries';

/** Why a base is refused, by the answer's status. */
const PROBLEMS = { 404: 'gone', 409: 'taken', 429: 'tooMany' } as const;

/** Makes a base of files, a collection, or all games of the library. */
export function MakeBase({ collections }: { collections: readonly Collection[] }) {
  const t = useTranslations('bases');
  const kinds = useTranslations('games');
  const client = useQueryClient();
  const [name, setName] = useState('');
  const [kind, setKind] = useState<GameKind>('chess');
  /** `files`, `library`, or the id of a collection. */
  const [from, setFrom] = useState('files');
  const [problem, setProblem] = useState<string | null>(null);
  const make = async (): Promise<void> => {
    setProblem(null);
    const source =
      from === 'files' || from === 'library'
        ? ({ from } as const)
        : ({ from: 'collection', id: Number(from) } as const);
    try {
      await call(makeBase, { body: { name, kind, source } });
      setName('');
      await refreshQueries(client, ['bases']);
    } catch (error) {
      const status = error instanceof Refused ? error.status : 0;
      setProblem(t(`problems.${PROBLEMS[status as keyof typeof PROBLEMS] ?? 'notMade'}`));
    }
  };
  return (
    <form
      className="quiet-box make-base"
      onSubmit={(event) => {
        event.preventDefault();
        void make();
      }}
    >
      <h2 className="m-0">{t('make')}</h2>
      <label>
        <span className="soft">{t('columns.name')}</span>
        <Form.Control
          required
          maxLength={60}
          value={name}
          placeholder={t('nameHint')}
          onChange={({ target }) => setName(target.value)}
        />
      </label>
      <label>
        <span className="soft">{t('columns.kind')}</span>
        <Form.Select value={kind} onChange={({ target }) => setKind(target.value as GameKind)}>
          {GAME_KINDS.map((one) => (
            <option key={one} value={one}>
              {kinds(one)}
            </option>
          ))}
        </Form.Select>
      </label>
      <label>
        <span className="soft">{t('columns.source')}</span>
        <Form.Select value={from} onChange={({ target }) => setFrom(target.value)}>
          <option value="files">{t('from.files')}</option>
          <option value="library">{t('from.library')}</option>
          {collections.map((collection) => (
            <option key={collection.id} value={collection.id}>
              {t('from.collection', { name: collection.name, games: collection.games })}
            </option>
          ))}
        </Form.Select>
      </label>
      <Button type="submit" disabled={name.trim() === ''}>
        {t('makeIt')}
      </Button>
      {problem && (
        <p role="alert" className="m-0">
          {problem}
        </p>
      )}
    </form>
  );
}
