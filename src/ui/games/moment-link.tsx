'use client';

import { useState } from 'react';
import Link from 'next/link';
import { useQuery } from '@tanstack/react-query';
import { useTranslations } from 'next-intl';
import { glimpseMoment } from '@/contract/library';
import type { GameKind, Side } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { GameBoard } from '../board/game-board';
import { call } from '../call';

/** Opens a game just before a move; pointed at or focused, it shows the position. */
export function MomentLink({
  gameId,
  kind,
  ply,
  side,
  children,
}: {
  gameId: number;
  kind: GameKind;
  ply: number;
  /** From whose side the board is seen. */
  side: Side;
  children: string;
}) {
  const t = useTranslations('library');
  const [shown, setShown] = useState(false);
  const { data } = useQuery({
    queryKey: ['moment', gameId, ply],
    queryFn: () => call(glimpseMoment, { id: gameId, query: { ply } }),
    enabled: shown,
    staleTime: Infinity,
  });
  const ruleset = rulesetOf(kind);
  return (
    <span
      className="moment"
      onMouseEnter={() => setShown(true)}
      onMouseLeave={() => setShown(false)}
      onFocus={() => setShown(true)}
      onBlur={() => setShown(false)}
    >
      <Link href={`/games/${gameId}?ply=${ply - 1}`} className="move-link" prefetch={false}>
        {children}
      </Link>
      {shown && data && (
        <span className="moment-board">
          <GameBoard
            kind={kind}
            position={ruleset.start(data.position)}
            flipped={side === 1}
            lastMove={data.last === null ? null : ruleset.parseCode(data.last)}
            label={t('moment', { position: data.position })}
          />
          <span>{t('momentMove', { move: data.move })}</span>
        </span>
      )}
    </span>
  );
}
