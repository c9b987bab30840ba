'use client';

import Link from 'next/link';
import { useState } from 'react';
import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { withdrawGrant, type Grant } from '@/contract/grants';
import { call, succeeds } from '../call';
import { CopyLink } from './copy-link';

interface GivenProps {
  grants: readonly Grant[];
  onWithdrawn?(): void;
}

/** What one has given to others; each can be withdrawn. */
export function GivenList({ grants, onWithdrawn }: GivenProps) {
  const t = useTranslations('given');
  if (grants.length === 0) return <p className="soft">{t('noneGiven')}</p>;
  return (
    <ul className="grants">
      {grants.map((grant) => (
        <li key={grant.id}>
          <strong>
            <Given grant={grant} />
          </strong>{' '}
          {t(grant.grantee === null ? 'byLink' : 'to', {
            name: grant.grantee ?? '',
            what: t(`may.${grant.right}`),
          })}
          <Until until={grant.until} />
          {grant.link !== null && (
            <>
              {' · '}
              <CopyLink link={grant.link} />
            </>
          )}{' '}
          <End id={grant.id} text={t('withdraw')} onEnded={onWithdrawn} />
        </li>
      ))}
    </ul>
  );
}

interface ReceivedProps {
  grants: readonly Grant[];
  /** Whether they were given to an account, which can let go of them. */
  mayDecline: boolean;
}

/** What one has been given by others. */
export function ReceivedList({ grants, mayDecline }: ReceivedProps) {
  const t = useTranslations('given');
  if (grants.length === 0) return <p className="soft">{t('noneReceived')}</p>;
  return (
    <ul className="grants">
      {grants.map((grant) => (
        <li key={grant.id}>
          <Link
            href={grant.scope.of === 'game' ? `/games/${grant.scope.id}` : `/given/${grant.id}`}
          >
            <Given grant={grant} />
          </Link>{' '}
          {t('of', { name: grant.owner })} · {t('youMay', { what: t(`may.${grant.right}`) })}
          <Until until={grant.until} />{' '}
          {mayDecline && grant.grantee !== null && <End id={grant.id} text={t('decline')} />}
        </li>
      ))}
    </ul>
  );
}

function Given({ grant: { scope, title } }: { grant: Grant }) {
  const t = useTranslations('given');
  if (scope.of === 'all') return t('all');
  return scope.of === 'game' ? title : t(scope.of, { name: title ?? '' });
}

function Until({ until }: { until: string | null }) {
  const t = useTranslations('given');
  return until !== null && <span className="soft"> · {t('untilDay', { day: until })}</span>;
}

interface EndProps {
  id: number;
  text: string;
  onEnded?: (() => void) | undefined;
}

function End({ id, text, onEnded }: EndProps) {
  const t = useTranslations('given');
  const router = useRouter();
  const [failed, setFailed] = useState(false);
  const end = async (): Promise<void> => {
    setFailed(!(await succeeds(call(withdrawGrant, { id }))));
    onEnded?.();
    router.refresh();
  };
  return (
    <>
      <Button variant="plain" size="sm" onClick={() => void end()}>
        {text}
      </Button>
      {failed && <span role="alert"> {t('problem.other')}</span>}
    </>
  );
}
