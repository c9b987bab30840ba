'use client';

import { useState } from 'react';
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
import type { GameKind } from '@/core/game/ruleset';
import { readSettingsText } from '@/core/review/sweep-settings';
import { call, Refused, succeeds } from '../call';
import { EffortSelect, useEffort } from '../effort-select';
import { ThinProgress } from '../thin-progress';
import { useSaySettings } from '../use-say-settings';
import { useSelection } from './selection';

const isOpen = ({ state }: Batch): boolean => state === 'running' || state === 'paused';

const AGAIN_MS = 2000;

/** Goes over the games that the list is filtered to, and tells how far that has come. */
export function BatchPanel({
  filter,
  count,
  usual,
  known,
}: {
  filter: { kind?: GameKind; text?: string };
  /** How many games the filter holds. */
  count: number;
  /** Settings as text. */
  usual: string;
  known: Batch[];
}) {
  const t = useTranslations('batch');
  const router = useRouter();
  const [asking, setAsking] = useState(false);
  const [settings, setSettings] = useEffort(usual);
  const [onlyNew, setOnlyNew] = useState(true);
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
    refetchInterval: ({ state }) => (state.data?.some(isOpen) ? AGAIN_MS : false),
  });

  const chosen = useSelection((state) => state.chosen);
  const isChosen = chosen.size > 0;
  const start = async (): Promise<void> => {
    setProblem(null);
    try {
      const games = isChosen ? { ids: [...chosen] } : filter;
      const body = { ...games, onlyNew, settings: readSettingsText(settings) };
      await call(startBatch, { body });
      setAsking(false);
    } catch (error) {
      setProblem(error instanceof Refused && error.code === 'empty' ? 'empty' : 'failed');
    }
    await refetch();
  };
  const settle = async (request: Promise<unknown>): Promise<void> => {
    setProblem((await succeeds(request)) ? null : 'failed');
    await refetch();
  };
  return (
    <section aria-label={t('title')} className="d-flex flex-column gap-2">
      {!asking && count > 0 && (
        <div>
          <Button variant="plain" onClick={() => setAsking(true)}>
            {isChosen ? t('openChosen', { count: chosen.size }) : t('open', { count })}
          </Button>
        </div>
      )}
      {asking && (
        <form
          className="d-flex align-items-center gap-3 flex-wrap"
          onSubmit={(event) => {
            event.preventDefault();
            void start();
          }}
        >
          <EffortSelect value={settings} onChange={setSettings} />
          <Form.Check
            id="only-new"
            label={t('onlyNew')}
            checked={onlyNew}
            onChange={(event) => setOnlyNew(event.target.checked)}
          />
          <Button variant="seal" type="submit">
            {t('start')}
          </Button>
          <Button variant="plain" onClick={() => setAsking(false)}>
            {t('close')}
          </Button>
        </form>
      )}
      {problem && (
        <p className="m-0" role="alert">
          {t(problem)}
        </p>
      )}
      {batches.map((batch) => (
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
      ))}
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
  const { state, games, done, failed, positions, totalPositions, secondsLeft } = batch;
  const share = totalPositions > 0 ? (100 * positions) / totalPositions : 0;
  const open = isOpen(batch);
  const timeText = (seconds: number): string => {
    const minutes = Math.round(seconds / 60);
    if (minutes < 2) return t('minute');
    if (minutes < 60) return t('minutes', { minutes });
    return t('hours', { hours: Math.floor(minutes / 60), minutes: minutes % 60 });
  };
  const facts = [
    t('progress', { done, games }),
    ...(failed > 0 ? [t('failures', { count: failed })] : []),
    ...(state === 'running'
      ? secondsLeft === null
        ? []
        : [t('left', { time: timeText(secondsLeft) })]
      : [t(state as 'paused')]),
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
