import type { GameKind } from '@/core/game/ruleset';

/** A family of terms of the readable evaluation, which are numbered one after the other. */
export interface TermGroup {
  name: string;
  /** Number of its first term, as in src/engine/search/<game>/evaluation.ts. */
  first: number;
  size: number;
}

const group = (name: string, first: number, size: number): TermGroup => ({ name, first, size });

export const TERM_GROUPS: Record<GameKind, readonly TermGroup[]> = {
  chess: [
    group('material', 0, 7),
    group('place', 8, 192),
    group('knight mobility', 200, 9),
    group('bishop mobility', 210, 14),
    group('rook mobility', 225, 15),
    group('queen mobility', 240, 28),
    group('bishop pair', 270, 1),
    group('isolated pawns', 271, 1),
    group('doubled pawns', 272, 1),
    group('backward pawns', 273, 1),
    group('rooks on open files', 274, 1),
    group('rooks on half-open files', 275, 1),
    group('knight outposts', 276, 1),
    group('bishop outposts', 277, 1),
    group('pieces hit by pawns', 278, 1),
    group('majors hit by minors', 279, 1),
    group('queens hit by rooks', 280, 1),
    group('loose pieces', 281, 1),
    group('space', 282, 1),
    group('right to move', 283, 1),
    group('connected pawns', 288, 8),
    group('passed pawns', 296, 8),
    group('free passed pawns', 304, 8),
    group('own king near passed pawns', 312, 8),
    group('other king near passed pawns', 320, 8),
    group('king shelter', 328, 7),
    group('pawn storm', 336, 7),
    group('open files at the king', 344, 1),
    group('king attack', 352, 32),
  ],
  shogi: [
    group('material', 0, 15),
    group('pieces in hand', 16, 8),
    group('first piece in hand', 24, 8),
    group('king place', 32, 45),
    group('pawn rank', 80, 10),
    group('near the other king', 96, 135),
    group('near the own king', 240, 135),
    group('king attack', 384, 32),
    group('king room', 416, 9),
    group('king cover', 432, 9),
    group('rook mobility', 448, 17),
    group('bishop mobility', 468, 17),
    group('open rook file', 488, 1),
    group('pawn before the king', 489, 1),
    group('entering king', 490, 1),
    group('right to move', 491, 1),
    group('open lances', 492, 1),
  ],
};

/** Weights by the name of the group, each for the early and the late game, in hundredths of a pawn. */
export type TermWeights = Record<string, readonly (readonly [early: number, late: number])[]>;
