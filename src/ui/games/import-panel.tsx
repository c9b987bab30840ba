'use client';

import { useCallback, useRef, useState, type DragEvent } from 'react';
import { useRouter } from 'next/navigation';
import { useQueries, useQueryClient } from '@tanstack/react-query';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { settingsText, SWEEP_PRESETS } from '@/core/review/sweep-settings';
import type { Collection } from '@/contract/collections';
import { findImport, importStatusSchema, stopImport, type ImportStatus } from '@/contract/imports';
import { call, Refused, refusalOf, succeeds } from '../call';
import { usePreferences } from '../preferences';
import { refreshQueries } from '../refresh-queries';
import { useServerEvents } from '../server-events';
import { useSaySettings } from '../use-say-settings';
import { ImportResult, isOpen } from './import-result';
import { ImportWishesForm, NO_WISHES, wishesQuery } from './import-wishes';

/** A file of this visit: sent with what it was, so that it can be sent again as copies. */
interface Sent {
  id: number;
  body: Blob;
  name: string;
  /** Sent with others: its report is waited for here. */
  among: boolean;
}

type Refusal = { name: string; code: string; most?: number };

/** Why a file is not taken, as the catalogue has it. */
const REFUSALS = ['tooMuch', 'missing', 'diskFull'] as const;

/** Takes games in by drop, choice or paste, and tells what became of each; reports of earlier ones stay within reach. */
export function ImportPanel({
  hasGames,
  earlier,
  collections,
}: {
  hasGames: boolean;
  earlier: readonly ImportStatus[];
  collections: readonly Collection[];
}) {
  const t = useTranslations('import');
  const router = useRouter();
  const client = useQueryClient();
  const [sent, setSent] = useState<Sent[]>([]);
  const [refusals, setRefusals] = useState<Refusal[]>([]);
  const [over, setOver] = useState(false);
  const [pasting, setPasting] = useState(false);
  const [wishing, setWishing] = useState(false);
  const [wishes, setWishes] = useState(NO_WISHES);
  const chooser = useRef<HTMLInputElement>(null);
  const opened = useRef(new Set<number>());

  const send = useCallback(
    async (name: string, body: Blob, { copies = false, among = false } = {}) => {
      const { sweepOnImport } = usePreferences.getState();
      const query = new URLSearchParams({
        name,
        ...(copies ? { copies: '1' } : {}),
        ...(sweepOnImport === null ? {} : { sweep: sweepOnImport }),
      });
      for (const [key, value] of wishesQuery(wishes)) query.append(key, value);
      try {
        const answer = await fetch(`/api/imports?${query}`, { method: 'POST', body });
        if (!answer.ok) throw await refusalOf(answer);
        const status = importStatusSchema.parse(await answer.json());
        // A query without data ignores news that comes during its first fetch, so it starts with what is known.
        client.setQueryData(['import', status.id], status);
        setSent((before) => [{ id: status.id, body, name, among }, ...before]);
      } catch (error) {
        const refusal = error instanceof Refused ? error : null;
        const most = typeof refusal?.detail === 'number' ? refusal.detail : 0;
        setRefusals((before) => [{ name, code: refusal?.code ?? 'unreachable', most }, ...before]);
      }
    },
    [client, wishes],
  );

  const sendFiles = async (files: FileList): Promise<void> => {
    // the list empties itself when the field is used again
    const all = [...files];
    for (const file of all) await send(file.name, file, { among: all.length > 1 });
  };

  const results = useQueries({
    queries: sent.map(({ id, among }) => ({
      queryKey: ['import', id],
      queryFn: async (): Promise<ImportStatus> => {
        const status = await call(findImport, { id });
        if (!isOpen(status) && !opened.current.has(id)) {
          opened.current.add(id);
          const [only] = status.gameIds;
          const isAlone = status.kept === 1 && status.read === 1 && status.notes.length === 0;
          if (isAlone && !among && only !== undefined) router.push(`/games/${only}`);
          else router.refresh();
        }
        return status;
      },
    })),
  });
  useServerEvents(
    (event) => {
      if (event.type === 'import') void refreshQueries(client, ['import', event.id]);
    },
    () => void refreshQueries(client, ['import']),
  );

  const onDrop = (event: DragEvent): void => {
    event.preventDefault();
    setOver(false);
    const { files } = event.dataTransfer;
    if (files.length > 0) void sendFiles(files);
    else {
      const text = event.dataTransfer.getData('text/plain');
      if (text) void send(t('pasted'), new Blob([text]));
    }
  };
  return (
    <section aria-label={t('title')}>
      <div
        className={over ? 'drop over' : 'drop'}
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={onDrop}
        onPaste={(event) => {
          const text = event.clipboardData.getData('text/plain');
          if (pasting || !text) return;
          event.preventDefault();
          void send(t('pasted'), new Blob([text]));
        }}
      >
        <strong className="drop-words">{hasGames ? t('drop') : t('dropFirst')}</strong>
        <span className="soft drop-words">{t('formats')}</span>
        <div className="d-flex gap-2 ms-auto flex-wrap">
          <SweepOnImport />
          <Button variant="seal" onClick={() => chooser.current?.click()}>
            {t('choose')}
          </Button>
          <Button variant="plain" aria-expanded={pasting} onClick={() => setPasting(!pasting)}>
            {t('paste')}
          </Button>
          <Button variant="plain" aria-expanded={wishing} onClick={() => setWishing(!wishing)}>
            {t('wishes')}
          </Button>
        </div>
        {wishing && (
          <ImportWishesForm wishes={wishes} collections={collections} onChange={setWishes} />
        )}
        <input
          ref={chooser}
          type="file"
          hidden
          multiple
          accept=".pgn,.epd,.fen,.kif,.kifu,.ki2,.ki2u,.csa,.sfen,.usi,.txt,.zip,.gz,.zst"
          aria-label={t('choose')}
          onChange={(event) => {
            if (event.target.files) void sendFiles(event.target.files);
            event.target.value = '';
          }}
        />
        {pasting && (
          <PasteForm
            onSend={(text) => {
              setPasting(false);
              void send(t('pasted'), new Blob([text]));
            }}
          />
        )}
      </div>
      {refusals.map(({ name, code, most }, index) => (
        <p key={index} role="alert" className="quiet-box mt-2 mb-0">
          <strong>{name}</strong>:{' '}
          {code === 'tooLarge'
            ? t('tooLarge', { most: most ?? 0 })
            : t(REFUSALS.find((known) => known === code) ?? 'unreachable')}
        </p>
      ))}
      {sent.map(({ id, body, name }, index) => (
        <ImportResult
          key={id}
          name={name}
          status={results[index]?.data}
          onCancel={() => void succeeds(call(stopImport, { id }))}
          onCopies={() => void send(name, body, { copies: true })}
        />
      ))}
      <EarlierImports imports={earlier.filter(({ id }) => sent.every((one) => one.id !== id))} />
    </section>
  );
}

/** Whether games are gone over as soon as they are in, and how. */
function SweepOnImport() {
  const t = useTranslations('import');
  const say = useSaySettings();
  const { sweepOnImport, set } = usePreferences();
  const choices = Object.values(SWEEP_PRESETS).map((nodes) => settingsText({ average: { nodes } }));
  return (
    <Form.Select
      value={sweepOnImport ?? ''}
      style={{ width: 'auto', maxWidth: '14rem' }}
      aria-label={t('sweep')}
      title={t('sweep')}
      onChange={({ target }) => set({ sweepOnImport: target.value || null })}
    >
      <option value="">{t('noSweep')}</option>
      {choices.map((choice) => (
        <option key={choice} value={choice}>
          {t('goOver', { how: say(choice) })}
        </option>
      ))}
    </Form.Select>
  );
}

/** What became of the latest imports before this visit. */
function EarlierImports({ imports }: { imports: readonly ImportStatus[] }) {
  const t = useTranslations('import');
  if (imports.length === 0) return null;
  return (
    <details className="mt-2">
      <summary className="soft">{t('earlier', { count: imports.length })}</summary>
      {imports.map((status) => (
        <ImportResult key={status.id} name={status.name} status={status} />
      ))}
    </details>
  );
}

function PasteForm({ onSend }: { onSend(text: string): void }) {
  const t = useTranslations('import');
  const [text, setText] = useState('');
  return (
    <form
      className="w-100"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim() !== '') onSend(text);
      }}
    >
      <Form.Control
        as="textarea"
        rows={7}
        value={text}
        autoFocus
        aria-label={t('pasteLabel')}
        placeholder={t('pasteLabel')}
        onChange={(event) => setText(event.target.value)}
      />
      <Button type="submit" variant="seal" className="mt-2" disabled={text.trim() === ''}>
        {t('takeIn')}
      </Button>
    </form>
  );
}
