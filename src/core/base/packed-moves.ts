import type { Move } from '../game/move';

/** Bytes of a move: it has 22 bits. */
const SIZE = 3;

/** Moves as a base stores them: three bytes each, the lowest first. */
export function packMoves(moves: readonly Move[]): Uint8Array {
  const bytes = new Uint8Array(SIZE * moves.length);
  moves.forEach((move, index) => {
    bytes[SIZE * index] = move & 255;
    bytes[SIZE * index + 1] = (move >> 8) & 255;
    bytes[SIZE * index + 2] = move >> 16;
  });
  return bytes;
}

/** The moves that {@link packMoves} was given. */
export const unpackMoves = (bytes: Uint8Array): Move[] =>
  Array.from({ length: bytes.length / SIZE }, (_, index) => {
    const [low, middle, high] = bytes.subarray(SIZE * index, SIZE * (index + 1));
    return (low! | (middle! << 8) | (high! << 16)) as Move;
  });
