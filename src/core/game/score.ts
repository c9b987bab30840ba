import type { Side } from './ruleset';

/**
 * What an engine says of a position, always from the view of side 0: hundredths of a pawn, or a forced mate in
 * so many plies (positive: side 0 mates; 0: the side to move is mated already, `winner` tells who won).
 */
export type Score = { kind: 'cp'; cp: number } | { kind: 'mate'; plies: number; winner: Side };

export const cpScore = (cp: number): Score => ({ kind: 'cp', cp });
export const mateScore = (plies: number, winner: Side): Score => ({ kind: 'mate', plies, winner });

/** A score stated in a file or by a search, with the depth where known (plies). */
export interface StatedScore {
  score: Score;
  depth?: number;
}

/** Moves (of the mating side) of a mate in so many plies, as chess counts them. */
export const matePliesToMoves = (plies: number): number => Math.ceil(plies / 2);

/** Plies of a mate in `moves`, from a position where `toMove` is about to play. */
export const mateMovesToPlies = (moves: number, winner: Side, toMove: Side): number =>
  moves === 0 ? 0 : winner === toMove ? 2 * moves - 1 : 2 * moves;
