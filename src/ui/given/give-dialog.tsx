'use client';

import { useTranslations } from 'next-intl';
import { useQuery } from '@tanstack/react-query';
import { listGrants } from '@/contract/grants';
import { call } from '../call';
import { Dialog } from '../dialog/dialog';
import { GivenList } from './grant-lists';
import { GrantForm } from './grant-form';

/** Who may see a game besides its owner, and more of them. */
export function GiveDialog({ gameId, onClose }: { gameId: number; onClose(): void }) {
  const t = useTranslations('given');
  const { data, isError, refetch } = useQuery({
    queryKey: ['grants', gameId],
    queryFn: () => call(listGrants, { query: { game: gameId } }),
  });
  const again = (): void => void refetch();
  return (
    <Dialog size="lg" title={t('giveGame')} closeText={t('close')} onClose={onClose}>
      {isError && <p role="alert">{t('problem.other')}</p>}
      {data && <GivenList grants={data} onWithdrawn={again} />}
      <GrantForm game={gameId} onGiven={again} />
    </Dialog>
  );
}
