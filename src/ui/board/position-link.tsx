'use client';

import Link from 'next/link';
import type { ReactNode } from 'react';
import { useTranslations } from 'next-intl';
import type { GameKind, Side } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { GameBoard } from './game-board';

/** A small board with words beside it, which lead to where the position is found. @param below the side that sits below */
export function PositionLink({
  href,
  kind,
  position,
  move = null,
  below = 0,
  children,
}: {
  href: string;
  kind: GameKind;
  position: string;
  /** That led there, in UCI or USI. */
  move?: string | null;
  below?: Side;
  children: ReactNode;
}) {
  const t = useTranslations('lessons');
  const ruleset = rulesetOf(kind);
  return (
    <Link href={href}>
      <span className="lesson-board">
        <GameBoard
          kind={kind}
          position={ruleset.start(position)}
          flipped={below === 1}
          lastMove={move === null ? null : ruleset.parseCode(move)}
          label={t('position', { position })}
        />
      </span>
      <span className="words">{children}</span>
    </Link>
  );
}
