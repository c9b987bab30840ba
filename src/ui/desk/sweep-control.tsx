'use client';

import { memo, useState } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { startSweep, stopSweep, type SweepStatus } from '@/contract/review';
import {
  readSettingsText,
  scopedSettings,
  settingsText,
  type Scope,
} from '@/core/review/sweep-settings';
import { call, succeeds } from '../call';
import { EffortSelect, useEffort } from '../effort-select';
import { ThinProgress } from '../thin-progress';
import { useReview } from './desk-review';
import { useDeskSetup } from './desk-setup';
import dynamic from 'next/dynamic';
import { useDeskStore, useMay } from './desk-store';
import { keepGame } from './keep-game';

export const isOpenSweep = (state: string | undefined): boolean =>
  state === 'queued' || state === 'running';

const DeskSweepChoices = dynamic(
  () => import('./desk-sweep-choices').then((module) => module.DeskSweepChoices),
  {
    ssr: false,
  },
);

/** The sweep of this game: how far it has come, and what starts and stops it. */
export function useSweep() {
  const { sweep: usual } = useDeskSetup();
  const store = useDeskStore();
  const { sweep, refresh } = useReview();
  const [limit, setLimit] = useEffort(settingsText(usual));
  const [failed, setFailed] = useState(false);
  const settle = async (request: (id: number) => Promise<unknown>): Promise<void> => {
    const id = await keepGame(store);
    setFailed(id === null || !(await succeeds(request(id))));
    refresh();
  };
  return {
    sweep,
    isUnderWay: sweep !== null && isOpenSweep(sweep.state),
    failed,
    limit,
    setLimit,
    start: (moves: Scope = {}) =>
      settle((id) => call(startSweep, { id, body: scopedSettings(limit, moves) })),
    /** Has one that waits in a batch done at once, as it was wished there. */
    startNow: ({ settings }: SweepStatus) =>
      settle((id) => call(startSweep, { id, body: readSettingsText(settings) })),
    stop: () => settle((id) => call(stopSweep, { id })),
  };
}

/** Starts a sweep, shows how far it has come, and calls it off. */
export const SweepControl = memo(function SweepControl() {
  const t = useTranslations('sweep');
  const choices = useTranslations('choices');
  const [choosing, setChoosing] = useState(false);
  const { sweep, isUnderWay, failed, limit, setLimit, start, startNow, stop } = useSweep();
  const mayEdit = useMay('edit');
  if (isUnderWay && sweep) {
    const share = sweep.total > 0 ? (100 * sweep.done) / sweep.total : 0;
    const waitsInBatch = sweep.state === 'queued' && sweep.inBatch;
    const waiting = waitsInBatch ? t('waitingInBatch') : t('waiting');
    return (
      <div className="d-flex align-items-center justify-content-end gap-2 flex-wrap w-100 sweep-progress">
        <span className="text-nowrap" role="status">
          {sweep.state === 'queued'
            ? waiting
            : t('progress', { done: sweep.done, total: sweep.total })}
        </span>
        <ThinProgress label={t('label')} share={share} />
        {mayEdit && waitsInBatch && (
          <Button variant="plain" className="text-nowrap" onClick={() => void startNow(sweep)}>
            {t('now')}
          </Button>
        )}
        {mayEdit && (
          <Button variant="plain" onClick={() => void stop()}>
            {t('cancel')}
          </Button>
        )}
      </div>
    );
  }
  if (!mayEdit) return null;
  return (
    <div className="d-flex align-items-center gap-2 flex-wrap">
      <Button variant={sweep ? 'plain' : 'seal'} onClick={() => void start()}>
        {sweep ? t('again') : t('start')}
      </Button>
      <EffortSelect value={limit} onChange={setLimit} />
      <Button variant="plain" onClick={() => setChoosing(true)}>
        {choices('open')}
      </Button>
      {choosing && (
        <DeskSweepChoices
          effort={limit}
          onEffort={setLimit}
          onStart={(scope) => void start(scope)}
          onClose={() => setChoosing(false)}
        />
      )}
      {sweep?.state === 'cancelled' && <span className="soft">{t('cancelled')}</span>}
      {sweep?.state === 'failed' && <span role="alert">{t('failed')}</span>}
      {failed && <span role="alert">{t('notSent')}</span>}
    </div>
  );
});
