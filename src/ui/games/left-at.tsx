'use client';

import { useTranslations } from 'next-intl';
import { useQuery } from '@tanstack/react-query';
import { listLeft, MOST_LEFT, type LeftGame } from '@/contract/bases';
import type { GameSummary } from '@/contract/library';
import { rulesetOf } from '@/core/rulesets';
import { call } from '../call';
import { numberText, readLine } from '../move-text';
import { usePreferences, useShogiNotation } from '../preferences';
import { useSideName } from '../side-name';
import { MomentLink } from './moment-link';

const FRESH_MS = 60_000;
/** Games that come into sight within so many milliseconds are asked for together. */
const TOGETHER_MS = 30;

interface Together {
  bases: readonly number[];
  games: number[];
  found: Promise<readonly LeftGame[]>;
}
let open: Together | null = null;

/** What is known of one game, asked together with those beside it. */
async function leftOf(id: number, bases: readonly number[]): Promise<LeftGame | null> {
  if (open?.bases !== bases || open.games.length === MOST_LEFT) open = together(bases);
  open.games.push(id);
  return (await open.found).find((one) => one.id === id) ?? null;
}

function together(bases: readonly number[]): Together {
  const games: number[] = [];
  const found = new Promise<void>((resolve) => setTimeout(resolve, TOGETHER_MS)).then(() => {
    if (open?.games === games) open = null;
    return call(listLeft, { query: { games, bases: bases.length > 0 ? [...bases] : undefined } });
  });
  return { bases, games, found };
}

/** Where a game left a base, or what its owner had prepared: the move, who made it, and what was usual or prepared. */
export function LeftAt({
  game,
  what,
  isOwn,
}: {
  game: GameSummary;
  what: 'leftBase' | 'leftPreparation';
  /** Whether the side that is the game's own is the reader's. */
  isOwn: boolean;
}) {
  const t = useTranslations('left');
  const bases = usePreferences((state) => state.askedBases);
  const { data } = useQuery({
    queryKey: ['bases', 'left', game.id, bases],
    queryFn: () => leftOf(game.id, bases),
    staleTime: FRESH_MS,
  });
  const ruleset = rulesetOf(game.kind);
  const sideName = useSideName(ruleset);
  const notation = useShogiNotation();
  const of = what === 'leftBase' ? data?.base : data?.preparation;
  if (!of) return null;
  const { left } = of;
  if (!left) return <span className="soft">{t('held')}</span>;
  const before = ruleset.start(left.position);
  const text = (code: string): string =>
    readLine(ruleset, before, [code], null, notation)[0]?.text ?? code;
  const instead =
    'usual' in of
      ? of.usual &&
        t('usual', {
          move: text(of.usual.move),
          share: Math.round((100 * of.usual.games) / of.games),
          games: of.games,
        })
      : of.prepared.length > 0 && t('prepared', { moves: of.prepared.map(text).join(', ') });
  const said = [who(left.side), instead].filter(Boolean).join(' · ');
  return (
    <>
      <MomentLink gameId={game.id} kind={game.kind} ply={left.ply} side={game.ownSide ?? left.side}>
        {`${numberText(ruleset, before)} ${text(left.move)}`}
      </MomentLink>{' '}
      <span className="soft" title={'name' in of ? `${said} · ${of.name}` : said}>
        {said}
      </span>
    </>
  );

  function who(side: 0 | 1): string {
    if (game.ownSide === null || !isOwn) return sideName(side);
    return t(side === game.ownSide ? 'you' : 'opponent');
  }
}
