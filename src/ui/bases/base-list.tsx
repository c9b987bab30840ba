'use client';

import { useRef, useState } from 'react';
import { useTranslations } from 'next-intl';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import { listBases, removeBase, type Base } from '@/contract/bases';
import { call } from '../call';
import { refreshQueries } from '../refresh-queries';
import { useServerEvents } from '../server-events';
import { ThinProgress } from '../thin-progress';

/** The reader's bases: what is in them, how far they are, and what can be done with them. */
export function BaseList({ known }: { known: readonly Base[] }) {
  const t = useTranslations('bases');
  const client = useQueryClient();
  const refresh = (): void => void refreshQueries(client, ['bases']);
  const { data: bases } = useQuery({
    queryKey: ['bases', 'list'],
    queryFn: () => call(listBases),
    initialData: [...known],
  });
  useServerEvents((event) => {
    if (event.type === 'base' || event.type === 'import') refresh();
  }, refresh);
  if (bases.length === 0) return <p className="soft m-0">{t('none')}</p>;
  return (
    <div className="games-scroll quiet-box p-0">
      <table className="games-table of-rows">
        <thead>
          <tr>
            <th>{t('columns.name')}</th>
            <th>{t('columns.kind')}</th>
            <th>{t('columns.source')}</th>
            <th className="text-end">{t('columns.games')}</th>
            <th>
              <span className="visually-hidden">{t('columns.tools')}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {bases.map((base) => (
            <BaseRow key={base.id} base={base} onChange={refresh} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function BaseRow({ base, onChange }: { base: Base; onChange(): void }) {
  const t = useTranslations('bases');
  const kinds = useTranslations('games');
  const { id, name, kind, source, collection, games, indexed, givenBy } = base;
  const [isAsked, setAsked] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const remove = (): void => {
    call(removeBase, { id }).then(onChange, () => setProblem(t('notRemoved')));
  };
  return (
    <tr>
      <td className="wide">{name}</td>
      <td className="soft">{kinds(kind)}</td>
      <td className="soft">
        {givenBy === null
          ? t(`source.${source}`, { collection: collection ?? '' })
          : t('givenBy', { name: givenBy })}
      </td>
      <td className="text-end">
        {games.toLocaleString('en')}
        {indexed < games && (
          <>
            <ThinProgress share={(100 * indexed) / games} label={t('progress', { name })} />
            <span className="soft small"> {t('ready', { games: indexed })}</span>
          </>
        )}
      </td>
      <td className="text-end">
        {givenBy === null && (
          <>
            {source === 'files' && <AddFiles base={base} onProblem={setProblem} />}{' '}
            {isAsked ? (
              <>
                <Button variant="plain" size="sm" className="text-danger" onClick={remove}>
                  {t('reallyRemove')}
                </Button>{' '}
                <Button variant="plain" size="sm" onClick={() => setAsked(false)}>
                  {t('keep')}
                </Button>
              </>
            ) : (
              <Button
                variant="plain"
                size="sm"
                aria-label={t('removeLabel', { name })}
                onClick={() => setAsked(true)}
              >
                {t('remove')}
              </Button>
            )}
          </>
        )}
        {problem && (
          <div role="alert" className="small">
            {problem}
          </div>
        )}
      </td>
    </tr>
  );
}

/** Sends files whose games go into a base. */
function AddFiles({
  base: { id, name },
  onProblem,
}: {
  base: Base;
  onProblem(problem: string | null): void;
}) {
  const t = useTranslations('bases');
  const input = useRef<HTMLInputElement>(null);
  const [sent, setSent] = useState<string | null>(null);
  const send = async (files: FileList): Promise<void> => {
    onProblem(null);
    for (const file of files) {
      setSent(file.name);
      const query = new URLSearchParams({ name: file.name, base: String(id) });
      const answer = await fetch(`/api/imports?${query}`, { method: 'POST', body: file }).catch(
        () => null,
      );
      if (!answer?.ok) {
        onProblem(t('notSent', { file: file.name }));
        break;
      }
    }
    setSent(null);
  };
  return (
    <>
      <input
        ref={input}
        type="file"
        multiple
        hidden
        aria-label={t('filesFor', { name })}
        onChange={({ target }) => {
          if (target.files) void send(target.files).then(() => (target.value = ''));
        }}
      />
      <Button
        variant="plain"
        size="sm"
        disabled={sent !== null}
        aria-label={t('filesFor', { name })}
        onClick={() => input.current?.click()}
      >
        {sent === null ? t('addFiles') : t('sending', { file: sent })}
      </Button>
    </>
  );
}
