'use client';

import { useState } from 'react';
import dynamic from 'next/dynamic';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { resultKey } from '../result-key';
import { useDeskSetup } from './desk-setup';
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
  const { source } = useDeskSetup();
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
