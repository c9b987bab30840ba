import type { GameKind } from '@/core/game/ruleset';

/** Nodes that a player rated 1500 sees; in shogi more are needed to play a like game. */
const NODES_AT_1500 = { chess: 1400, shogi: 6000 } as const;

/** Nodes that a made-up player of a rating sees: each 100 points see about half as many again. */
export const nodesOf = (kind: GameKind, rating: number): number =>
  Math.round(NODES_AT_1500[kind] * 1.5 ** ((rating - 1500) / 100));

/** A move that is played at once is looked at this much less. */
export const HASTE = 12;

/** Hundredths of a pawn by which a made-up player's move may look worse and still be taken one time in e. */
export const TEMPERATURE = 28;
