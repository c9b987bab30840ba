'use client';

import Link from 'next/link';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import type { ImportStatus } from '@/contract/imports';
import type { Problem } from '@/core/game/problem';
import { ThinProgress } from '../thin-progress';
import { useTimeText } from './use-time-text';

export const isOpen = (status: ImportStatus | undefined): boolean =>
  status === undefined || status.state === 'queued' || status.state === 'running';

const SHOWN_PROBLEMS = 20;

/** What becomes of a file that was sent, or became of it. */
export function ImportResult({
  name,
  status,
  onCancel,
  onCopies,
}: {
  name: string;
  status: ImportStatus | undefined;
  /** Neither is there for an earlier one. */
  onCancel?: () => void;
  onCopies?: () => void;
}) {
  const t = useTranslations('import');
  return (
    <div
      className="quiet-box mt-2"
      role="status"
      data-testid={onCancel ? 'import-result' : 'earlier-import'}
    >
      <div className="d-flex gap-2 align-items-baseline flex-wrap">
        <strong>{name}</strong>
        {isOpen(status) ? (
          <>
            <Progress status={status} />
            {onCancel && (
              <Button variant="plain" className="ms-auto" onClick={onCancel}>
                {t('cancel')}
              </Button>
            )}
          </>
        ) : (
          status && (
            <>
              <span>
                {status.state === 'cancelled' && `${t('cancelled')} `}
                {t('kept', { kept: status.kept })}
                {status.duplicates > 0 && ` ${t('duplicates', { count: status.duplicates })}`}
                {status.merged > 0 && ` ${t('merged', { count: status.merged })}`}
                {status.failed > 0 && ` ${t('failed', { count: status.failed })}`}
              </span>
              {status.gameIds.length === 1 && (
                <Link href={`/games/${status.gameIds[0]}`}>{t('open')}</Link>
              )}
              {status.duplicates > 0 && onCopies && (
                <Button variant="plain" onClick={onCopies}>
                  {t('copies')}
                </Button>
              )}
            </>
          )
        )}
      </div>
      <ProblemList problems={status?.problems ?? []} />
      {status && !isOpen(status) && status.failed > 0 && (
        <p className="m-0 mt-2 d-flex gap-3 flex-wrap">
          <a href={`/api/imports/${status.id}/failed?as=games`} download>
            {t('failedGames')}
          </a>
          <a href={`/api/imports/${status.id}/failed?as=report`} download>
            {t('report')}
          </a>
        </p>
      )}
      {(status?.notes.length ?? 0) > 0 && <p className="m-0 mt-2">{t('notes')}</p>}
      <ProblemList problems={status?.notes ?? []} />
    </div>
  );
}

/** How far a file has been read, how fast, and how long it takes yet. */
function Progress({ status }: { status: ImportStatus | undefined }) {
  const t = useTranslations('import');
  const timeText = useTimeText();
  const { read = 0, readBytes = 0, size = 0, elapsed = null } = status ?? {};
  const seconds = (elapsed ?? 0) / 1000;
  const facts = [
    status?.state === 'queued' ? t('waiting') : t('reading', { read }),
    ...(seconds >= 1 && read > 0
      ? [
          t('pace', { pace: Math.round(read / seconds) }),
          t('left', { time: timeText((seconds * (size - readBytes)) / Math.max(1, readBytes)) }),
        ]
      : []),
  ];
  return (
    <>
      <span>{facts.join(' · ')}</span>
      <ThinProgress label={t('title')} share={size > 0 ? (100 * readBytes) / size : 0} />
    </>
  );
}

function ProblemList({ problems }: { problems: readonly Problem[] }) {
  const t = useTranslations('import');
  const say = useTranslations('problem');
  if (problems.length === 0) return null;
  return (
    <ul className="problems">
      {problems.slice(0, SHOWN_PROBLEMS).map(({ code, params, place }, index) => (
        <li key={index}>
          <span className="soft">
            {t('place', { line: place.line, column: place.column, game: place.game ?? 1 })}
          </span>{' '}
          {say(code as 'file.empty', params)}
        </li>
      ))}
      {problems.length > SHOWN_PROBLEMS && (
        <li className="soft">{t('more', { count: problems.length - SHOWN_PROBLEMS })}</li>
      )}
    </ul>
  );
}
