'use client';

import { sideOfWord } from '@/contract/shapes';
import { useRef, useState, type FormEvent } from 'react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import { useQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import {
  listSheets,
  prepareFromGames,
  prepareLines,
  removeSheet,
  restoreSheet,
  type Sheet,
  type WhichPreparation,
} from '@/contract/preparation';
import { startSweep } from '@/contract/review';
import { emptyTree } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';
import { SWEEP_PRESETS } from '@/core/review/sweep-settings';
import { call, Refused } from '../call';
import { linesJson } from '../lines-json';

/** Bytes of a file that is taken in at once. */
const MOST_BYTES = 8 * 1024 * 1024;

/** The sheets of a preparation, and how lines come into it. */
export function SheetList({ which, onChange }: { which: WhichPreparation; onChange(): void }) {
  const t = useTranslations('preparation');
  const problems = useTranslations('problem');
  const router = useRouter();
  const input = useRef<HTMLInputElement>(null);
  const [said, setSaid] = useState<string | null>(null);
  const [removed, setRemoved] = useState<Sheet | null>(null);
  const { data: sheets } = useQuery({
    queryKey: ['preparation', 'sheets', which.kind, which.side],
    queryFn: () => call(listSheets, { query: which }),
  });
  /** Does something, and tells what came of it. */
  const attempt = async (asked: () => Promise<string | null>): Promise<void> => {
    setSaid(null);
    try {
      setSaid(await asked());
      onChange();
    } catch (error) {
      setSaid(t(`problems.${error instanceof Refused ? problemOf(error) : 'failed'}`));
    }
  };
  const takeFile = (file: File): Promise<void> =>
    attempt(async () => {
      if (file.size > MOST_BYTES) return t('tooLarge', { most: MOST_BYTES / 1024 / 1024 });
      const [{ readLines }, { decodeText }] = await Promise.all([
        import('@/core/preparation/read-lines'),
        import('@/core/notation/encoding'),
      ]);
      const text = decodeText(new Uint8Array(await file.arrayBuffer()), which.kind);
      const read = readLines(text, which.kind);
      if (!('lines' in read)) return problems(read.code as 'file.empty', read.params);
      const body = { lines: linesJson(read.lines) };
      const { added } = await call(prepareLines, { query: which, body });
      return t('addedFromFile', { moves: added, games: read.games, left: read.left });
    });
  const make = (name: string): Promise<void> =>
    attempt(async () => {
      const { kind } = which;
      const body = { lines: linesJson(emptyTree(kind, rulesetOf(kind).startText)), name };
      const { id } = await call(prepareLines, { query: which, body });
      router.push(`/games/${id}`);
      return null;
    });
  const remove = (sheet: Sheet): Promise<void> =>
    attempt(async () => {
      await call(removeSheet, { id: sheet.id });
      setRemoved(sheet);
      return null;
    });
  const restore = ({ id }: Sheet): Promise<void> =>
    attempt(async () => {
      await call(restoreSheet, { id });
      setRemoved(null);
      return null;
    });
  const goOver = (): Promise<void> =>
    attempt(async () => {
      const body = {
        average: { nodes: SWEEP_PRESETS.standard },
        moves: { side: sideOfWord(which.side), over: 'both' as const },
      };
      for (const { id } of sheets ?? []) await call(startSweep, { id, body });
      return t('goingOver');
    });
  return (
    <section className="quiet-box" aria-labelledby="sheets">
      <h2 id="sheets">{t('sheets')}</h2>
      {sheets?.length === 0 && <p className="soft m-0">{t('noSheets')}</p>}
      <ul className="list-unstyled m-0">
        {sheets?.map((sheet) => (
          <li key={sheet.id} className="d-flex gap-2 align-items-baseline flex-wrap">
            <Link href={`/games/${sheet.id}`}>{sheet.name ?? t('unnamed')}</Link>
            <span className="soft">
              {t('holds', { lines: sheet.lines, moves: sheet.moves })}
              {sheet.swept && ` · ${t(`swept.${sheet.swept}`)}`}
            </span>
            <a href={`/api/games/${sheet.id}/export?format=${sheet.format}&findings=0`} download>
              {t('asFile', { format: sheet.format.toUpperCase() })}
            </a>
            <Button
              variant="plain"
              size="sm"
              aria-label={t('removeLabel', { name: sheet.name ?? t('unnamed') })}
              onClick={() => void remove(sheet)}
            >
              {t('remove')}
            </Button>
          </li>
        ))}
      </ul>
      {removed && (
        <p className="m-0" role="status">
          {t('removed', { name: removed.name ?? t('unnamed') })}{' '}
          <Button variant="plain" size="sm" onClick={() => void restore(removed)}>
            {t('restore')}
          </Button>
        </p>
      )}
      <div className="d-flex gap-3 flex-wrap align-items-end mt-2">
        <NameForm onMake={(name) => void make(name)} />
        <input
          ref={input}
          type="file"
          hidden
          aria-label={t('file')}
          onChange={({ target }) => {
            const [file] = target.files ?? [];
            if (file) void takeFile(file).then(() => (target.value = ''));
          }}
        />
        <Button variant="plain" onClick={() => input.current?.click()}>
          {t('addFile')}
        </Button>
        <OwnGamesForm
          onTake={(worth) =>
            void attempt(async () => {
              const { added } = await call(prepareFromGames, { query: which, body: worth });
              return t('added', { moves: added });
            })
          }
        />
        {sheets !== undefined && sheets.length > 0 && (
          <Button variant="plain" onClick={() => void goOver()}>
            {t('goOver')}
          </Button>
        )}
      </div>
      <p className="m-0" role="status">
        {said}
      </p>
    </section>
  );
}

/** Why lines were refused, as the messages have it. */
const problemOf = ({ code }: Refused) =>
  (['unfit', 'full', 'none', 'tooMany', 'limit'] as const).find((one) => one === code) ?? 'failed';

function NameForm({ onMake }: { onMake(name: string): void }) {
  const t = useTranslations('preparation');
  const [name, setName] = useState('');
  return (
    <form
      className="d-flex gap-2 align-items-end"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        onMake(name);
      }}
    >
      <label>
        <span className="soft d-block small">{t('newSheet')}</span>
        <Form.Control
          size="sm"
          required
          maxLength={60}
          value={name}
          onChange={({ target }) => setName(target.value)}
        />
      </label>
      <Button type="submit" variant="plain" disabled={name.trim() === ''}>
        {t('make')}
      </Button>
    </form>
  );
}

/** Half moves of a move, for those who count by pairs. */
const PLIES = 2;

function OwnGamesForm({
  onTake,
}: {
  onTake(worth: { games: number; share: number; plies: number }): void;
}) {
  const t = useTranslations('preparation');
  const [values, setValues] = useState({ games: 3, share: 50, moves: 12 });
  const field = (name: keyof typeof values, least: number, most: number) => (
    <label>
      <span className="soft d-block small">{t(`own.${name}`)}</span>
      <Form.Control
        size="sm"
        type="number"
        required
        min={least}
        max={most}
        value={values[name]}
        onChange={({ target }) => setValues({ ...values, [name]: Number(target.value) })}
      />
    </label>
  );
  return (
    <form
      className="d-flex gap-2 align-items-end own-games"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        const { games, share, moves } = values;
        onTake({ games, share, plies: PLIES * moves });
      }}
    >
      {field('games', 1, 1000)}
      {field('share', 0, 100)}
      {field('moves', 1, 30)}
      <Button type="submit" variant="plain">
        {t('own.take')}
      </Button>
    </form>
  );
}
