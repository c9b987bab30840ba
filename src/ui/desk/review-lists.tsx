'use client';

import { useState } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { compareSweep } from '@/contract/review';
import { isPointedOut } from '@/core/review/annotate';
import { wholeLoss } from '@/core/review/chance';
import { VERDICT_NAG, type Verdict } from '@/core/review/verdict';
import { call } from '../call';
import { usePreferences } from '../preferences';
import { useSaySettings } from '../use-say-settings';
import { useReview } from './desk-review';
import { useDesk, useMay } from './desk-store';
import { MoveLink, NodeLink } from './move-link';
import { Sign } from './sign';

/** Moves of variations that fail, each with the way there. */
export function FailingVariations() {
  const t = useTranslations('variations');
  const view = useDesk((state) => state.view);
  const { variations } = useReview();
  const remarks = usePreferences((state) => state.remarks);
  const known = [...variations].filter(([id]) => view.has(id));
  if (known.length === 0) return null;
  const failing = known.filter(([id, found]) => isPointedOut(view.node(id), found, remarks));
  return (
    <div className="small mb-2" data-testid="failing">
      <p className="m-0">{t('found', { failing: failing.length, moves: known.length })}</p>
      {failing.map(([id, { verdict, loss }]) => (
        <p key={id} className="m-0">
          <NodeLink id={id} /> <Said verdict={verdict} loss={loss} />
        </p>
      ))}
    </div>
  );
}

function Said({ verdict, loss }: { verdict: Verdict; loss: number }) {
  const t = useTranslations('review');
  return (
    <>
      {verdict !== 'none' && <Sign nag={VERDICT_NAG[verdict]} />}{' '}
      {wholeLoss(loss) > 0 ? `−${wholeLoss(loss)}` : t('headlineNoLoss')}
    </>
  );
}

/** What the sweep before said otherwise; it can give way. */
export function Changes() {
  const t = useTranslations('changes');
  const say = useSaySettings();
  const gameId = useDesk((state) => state.gameId);
  const { comparison, take } = useReview();
  const [failed, setFailed] = useState(false);
  const mayEdit = useMay('edit');
  const [hasLetGo, setHasLetGo] = useState(false);
  const setBeside = async (beside: boolean): Promise<void> => {
    try {
      take(await call(compareSweep, { id: gameId!, body: { beside } }));
      setHasLetGo(!beside);
      setFailed(false);
    } catch {
      setFailed(true);
    }
  };
  const alert = failed && (
    <p role="alert" className="m-0">
      {t('failed')}
    </p>
  );
  if (!comparison)
    return (
      hasLetGo && (
        <div className="small mb-2">
          <Button variant="plain" size="sm" onClick={() => void setBeside(true)}>
            {t('back')}
          </Button>
          {alert}
        </div>
      )
    );
  const { changes, settings } = comparison;
  return (
    <div className="small mb-2" data-testid="changes">
      <div className="d-flex align-items-baseline gap-2 flex-wrap">
        <span>{t('title', { count: changes.length, settings: say(settings) })}</span>
        {mayEdit && (
          <Button variant="plain" size="sm" onClick={() => void setBeside(false)}>
            {t('letGo')}
          </Button>
        )}
      </div>
      {alert}
      {changes.map(({ ply, before, now }) => (
        <p key={ply} className="m-0">
          <MoveLink ply={ply} /> {t('before')} <Said {...before} /> {t('now')} <Said {...now} />
        </p>
      ))}
    </div>
  );
}
