import { describe, expect, it } from 'vitest';
import { cpScore, mateScore, type Score } from '../game/score';
import type { Side } from '../game/ruleset';
import { NO_FINDINGS, type MoveReview } from './review';
import { matesReached } from './reached-mates';

type Said = readonly [best: Score, played: Score] | null;

/** The mates of a game whose moves are worth so much. */
const mates = (...said: Said[]) =>
  matesReached({
    ...NO_FINDINGS,
    moves: said.map(
      (one, index) =>
        one &&
        ({
          ply: index + 1,
          side: (index % 2) as Side,
          bestScore: one[0],
          playedScore: one[1],
        } as MoveReview),
    ),
  });
const level = cpScore(0);
const first = (plies: number): Score => mateScore(plies, 0);

describe('mates that were there in a game', () => {
  it('are given, or let go', () => {
    expect(mates([level, level], [level, level])).toEqual([]);
    const given = { ply: 0, side: 0, plies: 3, isLetGo: false };
    expect(mates([first(3), first(3)], [first(2), first(2)], [first(1), first(1)])).toEqual([
      given,
    ]);
    expect(mates([first(3), level])).toEqual([{ ...given, isLetGo: true }]);
    // the first move kept it, the second did not
    expect(
      mates([first(3), first(3)], [first(2), first(2)], [first(1), level], [level, level]),
    ).toEqual([{ ...given, isLetGo: true }]);
    // it was seen to be there no more only with the next move
    expect(mates([first(3), first(3)], [level, level])).toEqual([{ ...given, isLetGo: true }]);
  });

  it('begin where it is the move of whose they are', () => {
    expect(mates([level, level], [first(4), first(4)], [first(3), first(3)])).toEqual([
      { ply: 2, side: 0, plies: 3, isLetGo: false },
    ]);
    // it was never that side's move
    expect(mates([level, level], [first(4), first(4)])).toEqual([]);
  });

  it('come more than once, of either side', () => {
    const second = mateScore(5, 1);
    expect(mates([first(3), level], [second, level], [first(1), first(1)])).toEqual([
      { ply: 0, side: 0, plies: 3, isLetGo: true },
      { ply: 1, side: 1, plies: 5, isLetGo: true },
      { ply: 2, side: 0, plies: 1, isLetGo: false },
    ]);
  });

  it('are not said to be let go where nobody looked', () => {
    expect(mates([first(3), first(3)], null, [level, level])).toEqual([
      { ply: 0, side: 0, plies: 3, isLetGo: false },
    ]);
  });
});
