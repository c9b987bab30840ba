'use client';

import { useMemo, useState } from 'react';
import { dropOf, fromOf, toOf, type Move, type Square } from '@/core/game/move';
import type { Ruleset, Position } from '@/core/game/ruleset';
import type { BoardInput, Source } from './board-props';

const startsAt = (move: Move, source: Source): boolean =>
  'square' in source
    ? dropOf(move) === 0 && fromOf(move) === source.square
    : dropOf(move) === source.hand;

/**
 * Moves entered by two clicks, or by dragging: a piece or a piece in hand, then its target.
 * @param onMoves told the moves that were meant: more than one where a promotion is to be chosen
 */
export function useMoveInput(
  ruleset: Ruleset,
  position: Position,
  onMoves: (moves: Move[]) => void,
): BoardInput {
  const [chosen, setChosen] = useState<{ position: Position; source: Source } | null>(null);
  const moves = useMemo(() => ruleset.moves(position), [ruleset, position]);
  const source = chosen?.position === position ? chosen!.source : null;
  const from = source ? moves.filter((move) => startsAt(move, source)) : [];
  const select = (next: Source): void =>
    setChosen(moves.some((move) => startsAt(move, next)) ? { position, source: next } : null);
  return {
    source,
    targets: [...new Set(from.map(toOf))],
    onSquare(square: Square) {
      const fitting = from.filter((move) => toOf(move) === square);
      if (fitting.length === 0) return select({ square });
      setChosen(null);
      onMoves(fitting);
    },
    onHand: (hand: number) => select({ hand }),
    canCarry: (next) => moves.some((move) => startsAt(move, next)),
    carries: 'piece',
    onCarry(next, to) {
      const fitting = moves.filter((move) => startsAt(move, next) && toOf(move) === to);
      setChosen(null);
      if (fitting.length > 0) onMoves(fitting);
    },
  };
}
