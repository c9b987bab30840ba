'use client';

import { useState } from 'react';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { resultKey } from '../result-key';
import { useDeskSetup, type DeskSetup } from './desk-setup';
import { OpeningName } from '../opening-name';
import { DeskCard } from './desk-card';
import { useDesk, useMay } from './desk-store';

const HeaderDialog = dynamic(
  () => import('./header-dialog').then((module) => module.HeaderDialog),
  {
    ssr: false,
  },
);

/** Tags that the Desk shows in its own places. */
const SHOWN_ELSEWHERE = new Set([
  'White',
  'Black',
  'WhiteElo',
  'BlackElo',
  'WhiteTitle',
  'BlackTitle',
  'WhiteCountry',
  'BlackCountry',
  'WhiteTeam',
  'BlackTeam',
  'Event',
  'Site',
  'Round',
  'Date',
  'Time',
  'UTCDate',
  'UTCTime',
  'TimeControl',
  'Termination',
  'Rated',
]);

/** What is known of the game besides its moves. */
export function GameCard() {
  const t = useTranslations('gameCard');
  const handicaps = useTranslations('handicaps');
  const { info, record, line } = useDesk((state) => state.view);
  const results = useTranslations('results');
  const { source, beside } = useDeskSetup();
  const mayEdit = useMay('edit');
  const [editing, setEditing] = useState(false);
  const rated = info.rated === null ? null : t(info.rated ? 'rated' : 'casual');
  const facts: [string, string | null][] = [
    [
      t('event'),
      [info.event, info.round && t('round', { round: info.round })].filter(Boolean).join(', ') ||
        null,
    ],
    [t('site'), info.site],
    [t('date'), [info.date, info.time].filter(Boolean).join(' ') || null],
    [t('timeControl'), [info.timeControlText, rated].filter(Boolean).join(' · ') || null],
    [t('handicap'), info.handicap && handicaps(info.handicap as 'even')],
    [
      t('result'),
      info.end
        ? `${results(resultKey(info, info.result))} (${t(`ends.${info.end.replace(/[ -]/g, '')}` as 'ends.time')})`
        : results(resultKey(info, info.result)),
    ],
    [t('moves'), String(line.length)],
    [t('source'), info.source ?? source],
  ];
  const others = record.tags.filter(({ name }) => !SHOWN_ELSEWHERE.has(name));
  return (
    <DeskCard
      name="game"
      title={t('title')}
      headline={[results(resultKey(info, info.result)), info.event, info.date]
        .filter(Boolean)
        .join(' · ')}
      tools={
        mayEdit && (
          <Button variant="plain" onClick={() => setEditing(true)}>
            {t('edit')}
          </Button>
        )
      }
    >
      {beside && <Beside {...beside} />}
      {editing && <HeaderDialog onClose={() => setEditing(false)} />}
      <dl className="facts">
        {facts.map(([name, value]) =>
          value === null ? null : (
            <div key={name} className="d-contents">
              <dt>{name}</dt>
              <dd>{value}</dd>
            </div>
          ),
        )}
        {others.map(({ name, value }, index) => (
          <div key={`${name}-${index}`} className="d-contents">
            <dt>{name}</dt>
            <dd className="text-break">{value}</dd>
          </div>
        ))}
      </dl>
    </DeskCard>
  );
}

/** Where to go on from here. */
function Beside({ meetings, opening, previous, next }: NonNullable<DeskSetup['beside']>) {
  const t = useTranslations('gameCard');
  if (!meetings && !opening && previous === null && next === null) return null;
  return (
    <nav className="d-flex gap-3 flex-wrap mb-2" aria-label={t('beside')}>
      {meetings && <Link href={meetings.href}>{t('meetings', { games: meetings.games })}</Link>}
      {opening && (
        <span>
          <OpeningName text={opening.text} />
          {opening.games > 0 && (
            <>
              {' · '}
              <Link href={opening.href}>{t('openedSo', { games: opening.games })}</Link>
            </>
          )}
        </span>
      )}
      {previous !== null && <Link href={`/games/${previous}`}>{t('previousOfEvent')}</Link>}
      {next !== null && <Link href={`/games/${next}`}>{t('nextOfEvent')}</Link>}
    </nav>
  );
}
