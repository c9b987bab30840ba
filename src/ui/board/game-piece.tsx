'use client';

import type { GameKind } from '@/core/game/ruleset';
import { usePreferences } from '../preferences';
import { ChessPiece } from './chess-pieces';
import { ShogiPiece } from './shogi-piece';

/** A piece of either game, in a field of 100 by 100. */
export function GamePiece({
  kind,
  piece,
  flipped,
}: {
  kind: GameKind;
  piece: number;
  flipped: boolean;
}) {
  const style = usePreferences((state) => state.shogiPieces);
  if (kind === 'chess') return <ChessPiece piece={piece} />;
  return <ShogiPiece piece={piece} flipped={flipped} style={style} />;
}
