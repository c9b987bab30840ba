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

interface Moment {
  gameId: number;
  kind: GameKind;
  ply: number;
  /** From whose side the board is seen. */
  side: Side;
}

/** Opens a game just before a move; pointed at or focused, it shows the position. */
export function MomentLink({ children, ...moment }: Moment & { children: string }) {
  const { gameId, ply } = moment;
  const [shown, setShown] = useState(false);
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
      {shown && <MomentBoard {...moment} />}
    </span>
  );
}

function MomentBoard({ gameId, kind, ply, side }: Moment) {
  const t = useTranslations('library');
  const { data } = useQuery({
    queryKey: ['moment', gameId, ply],
    queryFn: () => call(glimpseMoment, { id: gameId, query: { ply } }),
    staleTime: Infinity,
  });
  const ruleset = rulesetOf(kind);
  if (!data) return null;
  return (
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
  );
}
