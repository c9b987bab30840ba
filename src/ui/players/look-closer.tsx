'use client';

import { wordOfSide } from '@/contract/shapes';
import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import type { GameKind, Side } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { deskHref } from '../desk-href';
import { usePreferences } from '../preferences';

/** Opens a Desk at the start of a game whose base card knows only the games of one player on one side. */
export function LookCloser({ kind, player, side }: { kind: GameKind; player: string; side: Side }) {
  const t = useTranslations('players');
  const router = useRouter();
  const set = usePreferences((state) => state.set);
  return (
    <Button
      variant="plain"
      size="sm"
      title={t('lookCloserTitle')}
      onClick={() => {
        set({
          baseFilter: { player, side: wordOfSide(side) },
          comparedFilter: null,
        });
        router.push(deskHref(kind, rulesetOf(kind).startText));
      }}
    >
      {t('lookCloser')}
    </Button>
  );
}
