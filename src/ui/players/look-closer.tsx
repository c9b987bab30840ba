'use client';

import { useState } from 'react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { findBasePlayers, listBases } from '@/contract/bases';
import type { Player } from '@/contract/players';
import { wordOfSide } from '@/contract/shapes';
import { nameKey } from '@/core/game/player-name';
import type { GameKind, Side } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { call } from '../call';
import { deskHref } from '../desk-href';
import { usePreferences } from '../preferences';

/** Whether a base holds games of somebody of that name. */
async function holds(id: number, name: string): Promise<boolean> {
  const names = await call(findBasePlayers, { id, query: { name } });
  return names.some((one) => nameKey(one) === nameKey(name));
}

/** The bases of a game that hold games of a player, under whichever name. */
async function basesWith(kind: GameKind, { names }: Pick<Player, 'names'>): Promise<number[]> {
  const bases = await call(listBases, { query: { kind } });
  const found = await Promise.all(
    bases.map(async ({ id }) => {
      const held = await Promise.all(names.map((name) => holds(id, name)));
      return held.includes(true) ? [id] : [];
    }),
  );
  return found.flat();
}

/** Opens a Desk at the start of a game whose base card knows only the games of one player on one side. */
export function LookCloser({
  kind,
  player,
  side,
}: {
  kind: GameKind;
  player: Pick<Player, 'name' | 'names'>;
  side: Side;
}) {
  const t = useTranslations('players');
  const router = useRouter();
  const set = usePreferences((state) => state.set);
  const asked = usePreferences((state) => state.askedBases);
  const [problem, setProblem] = useState<'noBase' | 'notLooked' | null>(null);
  const look = async (): Promise<void> => {
    const [base] = await basesWith(kind, player);
    if (base === undefined) return setProblem('noBase');
    set({
      askedBases: [base, ...asked.filter((id) => id !== base)],
      baseFilter: { player: player.name, side: wordOfSide(side) },
      comparedFilter: null,
    });
    router.push(deskHref(kind, rulesetOf(kind).startText));
  };
  return (
    <>
      <Button
        variant="plain"
        size="sm"
        title={t('lookCloserTitle')}
        onClick={() => void look().catch(() => setProblem('notLooked'))}
      >
        {t('lookCloser')}
      </Button>
      {problem && (
        <span role="alert" className="small">
          {t(problem, { player: player.name })}{' '}
          {problem === 'noBase' && <Link href="/bases">{t('toBases')}</Link>}
        </span>
      )}
    </>
  );
}
