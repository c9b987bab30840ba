import { describe, expect, it } from 'vitest';
import { cpScore, mateScore } from '../game/score';
import type { Side } from '../game/ruleset';
import { NO_FINDINGS, type MoveReview } from './review';
import { summaryOf, trendOf } from './summary';

const course = (...chances: number[]) =>
  chances.map((chance) => ({ chance, origin: { by: 'search', depth: 9 } as const }));

describe('how a game went', () => {
  it.each([
    ['level', null, null, [50, 30, 70, 45]],
    ['one stroke', 0, 2, [50, 60, 84, 90]],
    ['one stroke', 1, 1, [50, 20, 10]],
    // 23.9 points are no stroke
    ['one way', 0, 2, [50, 60, 83.9, 90]],
    ['one way', 1, 3, [50, 45, 35, 29.9, 5]],
    // broken off once and decided again by a small step: no stroke of the kind that decides at once
    ['one way', 0, 4, [50, 75, 68, 69, 95]],
    ['one way', 0, null, [80, 90, 95]],
    ['slipped', 0, 3, [50, 71, 90, 60, 50]],
    ['slipped', 1, 2, [50, 20, 50]],
    ['turned', 1, 3, [50, 75, 50, 25, 10]],
    ['turned', 0, 2, [10, 20, 80]],
    ['see-saw', 0, 4, [50, 80, 20, 50, 90]],
    ['see-saw', null, 3, [50, 80, 20, 50]],
    ['see-saw', 1, 4, [80, 20, 80, 50, 20]],
  ] as const)('%s, side %s, from ply %s: %j', (trend, side, ply, chances) =>
    expect(trendOf(course(...chances))).toEqual({ trend, side, ply }),
  );

  it('is not said before all of it is known', () => {
    expect(trendOf([])).toBeNull();
    expect(trendOf([...course(50), null])).toBeNull();
  });
});

const move = (ply: number, loss: number, more: Partial<MoveReview> = {}): MoveReview => ({
  ply,
  side: ((ply + 1) % 2) as Side,
  best: 50,
  played: 50 - loss,
  bestScore: cpScore(0),
  playedScore: cpScore(0),
  loss,
  verdict: 'none',
  rank: 1,
  linesKnown: 2,
  othersHold: 0,
  seen: null,
  isTurningPoint: false,
  isChoice: true,
  phase: 'middlegame',
  spent: null,
  walksIntoMate: false,
  betterLine: [],
  refutation: [],
  depth: 9,
  isUnsettled: false,
  ...more,
});
const summary = (moves: readonly (MoveReview | null)[]) => summaryOf({ ...NO_FINDINGS, moves });
/** The same losses as the moves of side 0, the other side losing nothing. */
const own = (...losses: number[]) =>
  summary(losses.flatMap((loss, index) => [move(2 * index + 1, loss), move(2 * index + 2, 0)]))
    .sides[0];

describe('what a game came to for a side', () => {
  it('is its loss by phase, over the moves that left a choice', () => {
    const { sides } = summary([
      move(1, 2, { phase: 'opening' }),
      move(2, 30),
      move(3, 4, { phase: 'opening' }),
      move(4, 0, { isChoice: false }),
      move(5, 9),
      null,
    ]);
    expect(sides[0].phases).toEqual([
      { phase: 'opening', meanLoss: 3, moves: 2 },
      { phase: 'middlegame', meanLoss: 9, moves: 1 },
    ]);
    expect(sides[1].phases).toEqual([{ phase: 'middlegame', meanLoss: 30, moves: 1 }]);
  });

  it('is its time, also at what it got wrong', () => {
    const { sides } = summary([
      move(1, 0, { spent: 10_000 }),
      move(2, 12),
      move(3, 12, { spent: 2000 }),
      null,
      move(5, 11.9, { spent: 6000 }),
      null,
      move(7, 30),
    ]);
    expect(sides[0].time).toEqual({ mean: 6000, moves: 3, atErrors: 2000, errors: 1 });
    expect(sides[1].time).toBeNull();
    const none = summary([move(1, 0, { spent: 5 })]).sides[0].time;
    expect(none).toEqual({ mean: 5, moves: 1, atErrors: null, errors: 0 });
  });

  it.each([
    [12, 6, [{ ply: 2, given: 12, returned: 6 }]],
    [12, 5.9, []],
    [11.9, 40, []],
    [20, 10, [{ ply: 2, given: 20, returned: 10 }]],
    [20, 35, [{ ply: 2, given: 20, returned: 20 }]],
  ])('is an error of %d points let off by a reply that loses %d', (given, loss, letOffs) => {
    const { sides } = summary([move(1, given), move(2, loss)]);
    expect(sides[1].letOffs).toEqual(letOffs);
    expect(sides[0].letOffs).toEqual([]);
  });

  it('is a mate that was missed, by whoever had it', () => {
    const mine = mateScore(5, 0);
    const { sides } = summary([
      move(1, 40, { bestScore: mine }),
      move(2, 0, { bestScore: mine, playedScore: mine }),
      // a longer way to the same mate is none
      move(3, 0, { bestScore: mine, playedScore: mateScore(9, 0) }),
      move(4, 40, { bestScore: mateScore(3, 1), playedScore: mine }),
    ]);
    expect(sides.map(({ missedMates }) => missedMates)).toEqual([[1], [4]]);
  });

  it('is the only moves that it found', () => {
    const { sides } = summary([move(1, 0, { verdict: 'only move' }), move(2, 0)]);
    expect(sides.map(({ met }) => met)).toEqual([[1], []]);
  });

  it.each([
    [[5, 5, 2], [{ from: 1, to: 5, loss: 12 }]],
    [[5, 5, 1.9], []],
    // what is too small to be noticed does not count, and is not part of the stretch at its ends
    [[0.9, 5, 5, 0.9, 2, 0.9], [{ from: 3, to: 9, loss: 12 }]],
    [[0.9, 0.9, 0.9, 0.9, 0.9, 5, 5], []],
    // a flagged move is told of by itself
    [[5, 5, 6, 5, 5], []],
    [
      [5, 5, 5.9, 3, 5, 5],
      [
        { from: 1, to: 5, loss: 15.9 },
        { from: 7, to: 11, loss: 13 },
      ],
    ],
    // the shortest stretch, of ten moves at most
    [[5, 1, 5, 5, 9], [{ from: 1, to: 7, loss: 16 }]],
    [[5, 0, 0, 0, 0, 0, 0, 0, 5, 2], [{ from: 1, to: 19, loss: 12 }]],
    [[5, 0, 0, 0, 0, 0, 0, 0, 0, 5, 2], []],
  ])('is a drift: losses of %j', (losses, drifts) => {
    const found = own(...losses).drifts;
    expect(found.map(({ from, to }) => [from, to])).toEqual(
      drifts.map(({ from, to }) => [from, to]),
    );
    found.forEach(({ loss }, index) => expect(loss).toBeCloseTo(drifts[index]!.loss));
  });
});
