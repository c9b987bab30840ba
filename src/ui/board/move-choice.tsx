'use client';

import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import type { Move } from '@/core/game/move';

/** Asks which of some moves was meant, where a promotion is to be chosen. */
export function MoveChoice({
  moves,
  textOf,
  onMove,
}: {
  moves: readonly Move[];
  textOf(move: Move): string;
  onMove(move: Move): void;
}) {
  const t = useTranslations('moveField');
  return (
    <div className="line-banner" role="group" aria-label={t('choose')}>
      {t('choose')}
      {moves.map((move) => (
        <Button
          key={move}
          variant="plain"
          autoFocus={move === moves[0]}
          onClick={() => onMove(move)}
        >
          {textOf(move)}
        </Button>
      ))}
    </div>
  );
}
