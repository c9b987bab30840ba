'use client';

import { useState, type ReactNode } from 'react';
import { useRouter } from 'next/navigation';
import { useQuery } from '@tanstack/react-query';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import {
  hurryBatch,
  listBatches,
  pauseBatch,
  startBatch,
  stopBatch,
  type Batch,
} from '@/contract/batches';
import { ONE_SIDE } from '@/core/ask/game-looks';
import { scopedSettings, type Scope } from '@/core/review/sweep-settings';
import type { GameFilter } from '@/contract/game-filter';
import { call, Refused, succeeds } from '../call';
import { useEffort } from '../effort-select';
import { KnownSelect, OverSelect, SweepChoices } from '../sweep-choices';
import { useServerEvents } from '../server-events';
import { ThinProgress } from '../thin-progress';
import { useSaySettings } from '../use-say-settings';
import { choiceOf, countOf, useSelection } from './selection';
import { useTimeText } from './use-time-text';

const isOpen = ({ state }: Batch): boolean => state === 'running' || state === 'paused';

const AGAIN_MS = 2000;
/** For so long what is known of them is taken for true. */
const FRESH_MS = 2000;
/** Moves of a game, where only its number is known. */
const USUAL_MOVES = 80;

/** Goes over the games that the list is filtered to, and tells how far that has come. */
export function BatchPanel({
  filter,
  count,
  usual,
  known,
  children,
}: {
  filter: GameFilter;
  /** How many games the filter holds. */
  count: number;
  /** Settings as text. */
  usual: string;
  known: Batch[];
  /** What else can be done with these games. */
  children: ReactNode;
}) {
  const t = useTranslations('batch');
  const choices = useTranslations('choices');
  const router = useRouter();
  const [asking, setAsking] = useState(false);
  /** Those that were over before this visit. */
  const [earlier] = useState(
    () => new Set(known.filter((batch) => !isOpen(batch)).map(({ id }) => id)),
  );
  const [settings, setSettings] = useEffort(usual);
  const [onlyNew, setOnlyNew] = useState(true);
  const [ownMoves, setOwnMoves] = useState(false);
  const [over, setOver] = useState<Scope['over']>(undefined);
  const [passed, setPassed] = useState<Scope['known']>(undefined);
  const [problem, setProblem] = useState<'empty' | 'failed' | null>(null);
  const { data: batches, refetch } = useQuery({
    queryKey: ['batches'],
    queryFn: async () => {
      const found = await call(listBatches);
      // what has just ended is in the list
      if (batches?.some(isOpen) && !found.some(isOpen)) router.refresh();
      return found;
    },
    initialData: known,
    // what came with the page need not be asked for again at once
    staleTime: FRESH_MS,
    refetchInterval: ({ state }) => (state.data?.some(isOpen) ? AGAIN_MS : false),
  });

  // games that come in may be gone over at once
  useServerEvents(
    (event) => {
      if (event.type === 'import') void refetch();
    },
    () => void refetch(),
  );
  const selection = useSelection();
  const chosen = countOf(selection);
  const isChosen = chosen > 0;
  const start = async (): Promise<void> => {
    setProblem(null);
    try {
      const games = choiceOf(selection, filter) ?? filter;
      const body = {
        ...games,
        onlyNew,
        ownMoves,
        settings: scopedSettings(settings, { over, known: passed }),
      };
      await call(startBatch, { body });
    } catch (error) {
      setProblem(error instanceof Refused && error.code === 'empty' ? 'empty' : 'failed');
    }
    await refetch();
  };
  const settle = async (request: Promise<unknown>): Promise<void> => {
    setProblem((await succeeds(request)) ? null : 'failed');
    await refetch();
  };
  const row = (batch: Batch) => (
    <BatchRow
      key={batch.id}
      batch={batch}
      onPause={(paused) => void settle(call(pauseBatch, { id: batch.id, body: { paused } }))}
      onFirst={
        isOpen(batch) && batches.filter(isOpen).indexOf(batch) > 0
          ? () => void settle(call(hurryBatch, { id: batch.id }))
          : null
      }
      onStop={() => void settle(call(stopBatch, { id: batch.id }))}
    />
  );
  return (
    <section aria-label={t('title')} className="d-flex flex-column gap-2">
      <div className="d-flex gap-3 flex-wrap align-items-center">
        {count > 0 && filter.deleted === undefined && (
          <Button variant="plain" onClick={() => setAsking(true)}>
            {isChosen ? t('openChosen', { count: chosen }) : t('open', { count })}
          </Button>
        )}
        {children}
      </div>
      {asking && (
        <SweepChoices
          kind={filter.kind ?? null}
          effort={settings}
          moves={(isChosen ? chosen : count) * USUAL_MOVES * (ownMoves ? ONE_SIDE : 1)}
          problem={null}
          onEffort={setSettings}
          onStart={() => void start()}
          onClose={() => setAsking(false)}
        >
          <OverSelect value={over} onChange={setOver} />
          <KnownSelect kind={filter.kind ?? null} value={passed} onChange={setPassed} />
          <Form.Check
            id="own-moves"
            label={choices('ownMoves')}
            checked={ownMoves}
            onChange={(event) => setOwnMoves(event.target.checked)}
          />
          <Form.Check
            id="only-new"
            label={t('onlyNew')}
            checked={onlyNew}
            onChange={(event) => setOnlyNew(event.target.checked)}
          />
        </SweepChoices>
      )}
      {problem && (
        <p className="m-0" role="alert">
          {t(problem)}
        </p>
      )}
      {batches.filter(({ id }) => !earlier.has(id)).map(row)}
      {earlier.size > 0 && (
        <details>
          <summary className="soft">{t('earlier', { count: earlier.size })}</summary>
          {batches.filter(({ id }) => earlier.has(id)).map(row)}
        </details>
      )}
    </section>
  );
}

function BatchRow({
  batch,
  onPause,
  onFirst,
  onStop,
}: {
  batch: Batch;
  onPause(paused: boolean): void;
  /** Null where nothing is before it. */
  onFirst: (() => void) | null;
  onStop(): void;
}) {
  const t = useTranslations('batch');
  const say = useSaySettings();
  const { state, games, done, failed, positions, totalPositions, secondsLeft, givesWay } = batch;
  const share = totalPositions > 0 ? (100 * positions) / totalPositions : 0;
  const open = isOpen(batch);
  const timeText = useTimeText();
  const outlook = (): string[] => {
    if (state !== 'running') return [t(state as 'paused')];
    if (givesWay) return [t('givesWay')];
    return secondsLeft === null ? [] : [t('left', { time: timeText(secondsLeft) })];
  };
  const facts = [
    t('progress', { done, games }),
    ...(failed > 0 ? [t('failures', { count: failed })] : []),
    ...outlook(),
  ];
  return (
    <div className="d-flex align-items-center gap-3 flex-wrap" data-testid="batch">
      <span className="soft text-nowrap">{say(batch.settings)}</span>
      <span role="status">{facts.join(' · ')}</span>
      {open && (
        <>
          <ThinProgress label={t('title')} share={share} />
          <Button variant="plain" onClick={() => onPause(state === 'running')}>
            {state === 'running' ? t('pause') : t('resume')}
          </Button>
          {onFirst && (
            <Button variant="plain" onClick={onFirst}>
              {t('first')}
            </Button>
          )}
          <Button variant="plain" onClick={onStop}>
            {t('stop')}
          </Button>
        </>
      )}
    </div>
  );
}
