'use client';

import { useState } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useReview } from './desk-review';
import { useDeskSetup } from './desk-setup';

const DEPTHS = [8, 10, 12, 14, 16];

const isOpen = (state: string | undefined): boolean => state === 'queued' || state === 'running';

/** Starts a sweep, shows how far it has come, and calls it off. */
export function SweepControl() {
  const t = useTranslations('sweep');
  const { gameId, sweepDepth, sweepLines } = useDeskSetup();
  const { sweep, refresh } = useReview();
  const [depth, setDepth] = useState(sweepDepth);
  const [failed, setFailed] = useState(false);

  const send = async (init: RequestInit): Promise<void> => {
    const answer = await fetch(`/api/games/${gameId}/sweep`, init).catch(() => null);
    setFailed(!answer?.ok);
    refresh();
  };
  const start = (): Promise<void> =>
    send({
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ depth, lines: sweepLines }),
    });

  if (isOpen(sweep?.state) && sweep) {
    const share = sweep.total > 0 ? (100 * sweep.done) / sweep.total : 0;
    return (
      <div className="d-flex align-items-center gap-2 w-100 sweep-progress">
        <span className="text-nowrap" role="status">
          {sweep.state === 'queued'
            ? t('waiting')
            : t('progress', { done: sweep.done, total: sweep.total })}
        </span>
        <div
          className="thin-progress flex-grow-1"
          role="progressbar"
          aria-label={t('label')}
          aria-valuenow={Math.round(share)}
          aria-valuemin={0}
          aria-valuemax={100}
          style={{ minWidth: 80 }}
        >
          <span style={{ width: `${share}%` }} />
        </div>
        <Button variant="plain" onClick={() => void send({ method: 'DELETE' })}>
          {t('cancel')}
        </Button>
      </div>
    );
  }
  const depths = DEPTHS.includes(sweepDepth)
    ? DEPTHS
    : [...DEPTHS, sweepDepth].sort((a, b) => a - b);
  return (
    <div className="d-flex align-items-center gap-2 flex-wrap">
      <Button variant={sweep ? 'plain' : 'seal'} onClick={() => void start()}>
        {sweep ? t('again') : t('start')}
      </Button>
      <label className="d-flex align-items-center gap-1">
        <span className="soft">{t('depth')}</span>
        <Form.Select
          value={depth}
          style={{ width: 'auto' }}
          onChange={(event) => setDepth(Number(event.target.value))}
        >
          {depths.map((choice) => (
            <option key={choice}>{choice}</option>
          ))}
        </Form.Select>
      </label>
      {sweep?.state === 'cancelled' && <span className="soft">{t('cancelled')}</span>}
      {sweep?.state === 'failed' && <span role="alert">{t('failed')}</span>}
      {failed && <span role="alert">{t('notSent')}</span>}
    </div>
  );
}
