import type { ChessPosition } from '@/core/chess/position';
import { chess } from '@/core/chess/ruleset';
import { PositionError } from '@/core/game/ruleset';
import { randomSource } from '@/engine/draw';

/** Any `count` positions of four pieces and fewer, the same each time. */
export function drawnEndings(count: number): ChessPosition[] {
  const random = randomSource(4);
  const found: ChessPosition[] = [];
  while (found.length < count) {
    const board = Array.from({ length: 64 }, () => '1');
    const letters = [
      'K',
      'k',
      ...Array.from({ length: 2 }, () => 'QRBNPqrbnp'[Math.floor(10 * random())]!),
    ];
    for (const letter of letters) board[Math.floor(64 * random())] = letter;
    const rows = Array.from({ length: 8 }, (_, row) => board.slice(8 * row, 8 * row + 8).join(''));
    try {
      found.push(chess.start(`${rows.join('/')} ${random() < 0.5 ? 'w' : 'b'} - - 0 1`));
    } catch (error) {
      if (!(error instanceof PositionError)) throw error;
    }
  }
  return found;
}
