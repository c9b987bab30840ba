'use client';

import { useMemo } from 'react';
import { useTranslations } from 'next-intl';
import { placedBy } from '@/core/game/placed';
import type { Ruleset, Side, Position } from '@/core/game/ruleset';
import { useSideName } from '../side-name';

/** What a piece is called, by its letter in capitals. */
export function usePieceName(ruleset: Ruleset): (piece: string) => string {
  const t = useTranslations('pieceNames');
  const { kind, setup } = ruleset;
  const names = useMemo(() => {
    const letters = new Set(setup.pieces.map((piece) => setup.letter(piece).toUpperCase()));
    return new Map([...letters].map((letter) => [letter, t(`${kind}.${letter}` as 'chess.K')]));
  }, [t, kind, setup]);
  return (piece) => names.get(piece)!;
}

/** A position in words, for those who can't see the board: whose turn it is, and where everything stands. */
export function useBoardLabel(ruleset: Ruleset): (position: Position) => string {
  const t = useTranslations('boardLabel');
  const sideName = useSideName(ruleset);
  const pieceName = usePieceName(ruleset);
  return (position) => {
    const told = (side: Side): string => {
      const placed = placedBy(ruleset, position, side);
      const standing = placed
        .filter(({ squares }) => squares.length > 0)
        .map(({ piece, squares }) => `${pieceName(piece)} ${squares.join(' ')}`);
      const held = placed
        .filter((one) => one.held > 0)
        .map((one) => `${pieceName(one.piece)} ${one.held}`);
      const all =
        held.length > 0 ? [...standing, t('held', { pieces: held.join(', ') })] : standing;
      return t('side', { side: sideName(side), pieces: all.join(', ') || t('nothing') });
    };
    const turn = t('toMove', { side: sideName(ruleset.side(position)) });
    return `${turn} ${told(0)} ${told(1)}`;
  };
}
