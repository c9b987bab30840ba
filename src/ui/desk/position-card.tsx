'use client';

import { useState } from 'react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import { useQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import { findPosition } from '@/contract/games';
import { gameHref } from '../desk-href';
import { useAccount } from '../account/account';
import { call } from '../call';
import { lineText, numberText, readLine } from '../move-text';
import { useShogiNotation } from '../preferences';
import { useSideName } from '../side-name';
import type { BoardPlace } from './board-place';
import { useCardPlace } from './card-place';
import { DeskCard } from './desk-card';
import { useDesk, useDeskStore } from './desk-store';
import { usePaste } from './use-paste';

/** The position on the board as text to take along, and where else it came up. */
export function PositionCard() {
  const t = useTranslations('position');
  const setup = useTranslations('setup');
  const view = useDesk((state) => state.view);
  const notation = useShogiNotation();
  const router = useRouter();
  const store = useDeskStore();
  const place = useCardPlace();
  const problem = usePaste();
  const [copied, setCopied] = useState<string | null>(null);
  const [asked, setAsked] = useState<string | null>(null);
  const { ruleset } = view;
  const sideName = useSideName(ruleset);
  const written = ruleset.write(place.position);
  /** What is on the board at this moment, which the card may not show yet. */
  const now = (): BoardPlace => store.getState().place();
  const writtenNow = (): string => ruleset.write(now().position);
  /** The moves from the start, numbered. */
  const moves = (): string =>
    lineText(readLine(ruleset, view.positionOf(0), now().name.split(' '), null, notation));
  const copy = async (what: string, text: string): Promise<void> => {
    await navigator.clipboard.writeText(text);
    setCopied(what);
  };
  const setupHref = (position: string): string =>
    `/setup?${new URLSearchParams({ kind: ruleset.kind, position })}`;
  const copies: [what: 'position' | 'moves' | 'diagram', text: () => string][] = [
    ['position', writtenNow],
    ['moves', moves],
    ['diagram', () => ruleset.diagram(now().position)],
  ];
  return (
    <DeskCard
      name="position"
      title={t('title')}
      headline={t('headline', {
        side: sideName(ruleset.side(place.position)),
        number: numberText(ruleset, place.position),
      })}
      tools={
        <span className="state" role="status">
          {copied && t('copied', { what: t(`what.${copied as 'moves'}`) })}
        </span>
      }
    >
      <code className="position-text">{written}</code>
      <div className="d-flex flex-wrap gap-1 mt-1">
        {copies.map(([what, text]) => (
          <Button
            key={what}
            variant="plain"
            disabled={what === 'moves' && place.name === ''}
            onClick={() => void copy(what, text())}
          >
            {t('copy', { what: t(`what.${what}`) })}
          </Button>
        ))}
        <Button variant="plain" onClick={() => setAsked(writtenNow())}>
          {t('elsewhere')}
        </Button>
        <Link
          className="btn btn-plain"
          href={setupHref(written)}
          prefetch={false}
          onClick={(event) => {
            if (writtenNow() === written) return;
            event.preventDefault();
            router.push(setupHref(writtenNow()));
          }}
        >
          {setup('fromHere')}
        </Link>
      </div>
      <p className="soft small m-0 mt-1">{t('paste')}</p>
      {problem && (
        <p role="alert" className="small m-0 text-break">
          {problem}
        </p>
      )}
      {asked === written && <Elsewhere position={written} />}
    </DeskCard>
  );
}

function Elsewhere({ position }: { position: string }) {
  const t = useTranslations('position');
  const gameId = useDesk((state) => state.gameId);
  const kind = useDesk(({ view }) => view.ruleset.kind);
  const account = useAccount();
  const { data, isError } = useQuery({
    enabled: account !== null,
    queryKey: ['elsewhere', kind, position, gameId],
    queryFn: () => call(findPosition, { query: { kind, position, except: gameId ?? 0 } }),
  });
  if (isError) return <p role="alert">{t('failed')}</p>;
  // a visitor has no games of their own
  if (!account) return null;
  if (!data) return <p className="soft">{t('looking')}</p>;
  return (
    <div className="mt-1" data-testid="elsewhere">
      <strong>{t('total', { total: data.total })}</strong>
      <ul className="list-unstyled m-0">
        {data.occurrences.map(({ gameId: id, node, players, result, date, next }) => (
          <li key={id}>
            <Link href={gameHref(id, node)}>
              {players[0] ?? '?'} – {players[1] ?? '?'}
            </Link>{' '}
            <span className="soft">
              {[date, result, next && t('next', { move: next })].filter(Boolean).join(' · ')}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
