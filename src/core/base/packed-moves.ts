import type { Move } from '../game/move';

/** Bytes of a move: it has 22 bits. */
export const MOVE_BYTES = 3;

/** Moves as a base stores them: three bytes each, the lowest first. */
export function packMoves(moves: readonly Move[]): Uint8Array {
  const bytes = new Uint8Array(MOVE_BYTES * moves.length);
  moves.forEach((move, index) => {
    bytes[MOVE_BYTES * index] = move & 255;
    bytes[MOVE_BYTES * index + 1] = (move >> 8) & 255;
    bytes[MOVE_BYTES * index + 2] = move >> 16;
  });
  return bytes;
}

/** The moves that {@link packMoves} was given. */
export const unpackMoves = (bytes: Uint8Array): Move[] =>
  Array.from({ length: bytes.length / MOVE_BYTES }, (_, index) => {
    const [low, middle, high] = bytes.subarray(MOVE_BYTES * index, MOVE_BYTES * (index + 1));
    return (low! | (middle! << 8) | (high! << 16)) as Move;
  });
