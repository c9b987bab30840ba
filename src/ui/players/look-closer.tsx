'use client';

import { useState } from 'react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { findBasePlayers, listBases } from '@/contract/bases';
import { wordOfSide } from '@/contract/shapes';
import { nameKey } from '@/core/game/player-name';
import type { GameKind, Side } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { call } from '../call';
import { deskHref } from '../desk-href';
import { usePreferences } from '../preferences';

/** The bases of a game that hold games of a player. */
async function basesWith(kind: GameKind, player: string): Promise<number[]> {
  const bases = await call(listBases, { query: { kind } });
  const found = await Promise.all(
    bases.map(async ({ id }) => {
      const names = await call(findBasePlayers, { id, query: { name: player } });
      return names.some((name) => nameKey(name) === nameKey(player)) ? [id] : [];
    }),
  );
  return found.flat();
}

/** Opens a Desk at the start of a game whose base card knows only the games of one player on one side. */
export function LookCloser({ kind, player, side }: { kind: GameKind; player: string; side: Side }) {
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
      baseFilter: { player, side: wordOfSide(side) },
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
          {t(problem, { player })}{' '}
          {problem === 'noBase' && <Link href="/bases">{t('toBases')}</Link>}
        </span>
      )}
    </>
  );
}
