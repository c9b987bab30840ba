'use client';

import { useState } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { createGame } from '@/contract/games';
import { toJson } from '@/core/game/serial';
import { useAccount } from '../account/account';
import { call } from '../call';
import { loadAnew } from '../load-anew';
import { useDeskSetup } from './desk-setup';
import { useDesk, useDeskStore } from './desk-store';

/** Whose game it is that somebody else looks at, what they may do with it, and how to have it for themselves. */
export function GivenBanner() {
  const t = useTranslations('givenGame');
  const account = useAccount();
  const store = useDeskStore();
  const { givenBy } = useDeskSetup();
  const right = useDesk((state) => state.right);
  const isBeyondRight = useDesk((state) => state.isBeyondRight);
  const [failed, setFailed] = useState(false);
  if (givenBy === null) return null;
  const copy = async (): Promise<void> => {
    try {
      const body = toJson(store.getState().view.record);
      const { id } = await call(createGame, { query: { copy: '1' }, body });
      loadAnew(`/games/${id}`);
    } catch {
      setFailed(true);
    }
  };
  return (
    <div className="line-banner flex-wrap" role={isBeyondRight ? 'alert' : 'note'}>
      <span>
        {t('of', { name: givenBy })} {isBeyondRight ? t('beyond') : t(right as 'read')}
      </span>
      {account && right !== 'edit' && (
        <Button variant="plain" size="sm" onClick={() => void copy()}>
          {t('copy')}
        </Button>
      )}
      {failed && <span role="alert">{t('failed')}</span>}
    </div>
  );
}
