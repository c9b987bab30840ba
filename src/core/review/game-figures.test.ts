import { describe, expect, it } from 'vitest';
import { accuracyOf } from './accuracy';
import { figuresOf, packFigures, SIDE_FIGURES } from './game-figures';
import type { Findings, MoveReview } from './review';
import { NO_FINDINGS } from './review';

const LEVEL = { kind: 'cp', cp: 0 } as const;

const move = (ply: number, loss: number, verdict: MoveReview['verdict']): MoveReview =>
  ({
    ply,
    side: (ply + 1) % 2,
    loss,
    verdict,
    depth: 8 + ply / 2,
    isTurningPoint: loss > 20,
    bestScore: LEVEL,
    playedScore: LEVEL,
    spent: null,
  }) as MoveReview;

describe('the figures of a game', () => {
  it('count each side’s errors, and name the move that lost most', () => {
    const findings: Findings = {
      moves: [
        move(1, 13, 'mistake'),
        move(2, 7, 'inaccuracy'),
        move(3, 30, 'blunder'),
        null,
        move(5, 14, 'mistake'),
        move(6, 5, 'none'),
        move(7, 30, 'blunder'),
        move(8, 0, 'very good'),
      ],
      course: [40, 50, 90].map((chance) => ({ chance, origin: { by: 'rules' } })),
      accuracy: [
        accuracyOf([{ loss: 12, isUnsettled: false }]),
        accuracyOf([{ loss: 0, isUnsettled: false }]),
      ],
    };
    const { trend, depth, turningPoints, sides } = figuresOf(findings);
    expect(trend).not.toBeNull();
    expect([depth, turningPoints]).toEqual([expect.closeTo(8 + 32 / 14, 9), 2]);
    expect(sides[0]).toEqual({
      accuracy: 50,
      error: null,
      moves: 1,
      meanLoss: 12,
      blunders: 2,
      mistakes: 2,
      inaccuracies: 0,
      // the first of equals
      worstPly: 3,
      worstLoss: 30,
      letOffs: 0,
      peak: 90,
    });
    expect(sides[1]).toMatchObject({
      accuracy: 100,
      blunders: 0,
      mistakes: 0,
      inaccuracies: 1,
      worstPly: 2,
      worstLoss: 7,
      // the answer to move 1; move 6 gave back less than half of what it was given
      letOffs: 1,
      peak: 60,
    });
  });

  it('name no worst move where none was flagged, and nothing of a game that is not known', () => {
    const quiet = { ...NO_FINDINGS, moves: [move(1, 5.9, 'none'), move(2, 0, 'good')] };
    expect(figuresOf(quiet).sides.map(({ worstPly }) => worstPly)).toEqual([null, null]);
    const { trend, depth, turningPoints, sides } = figuresOf(NO_FINDINGS);
    expect([trend, depth, turningPoints]).toEqual([null, null, 0]);
    expect(sides[0]).toMatchObject({ accuracy: null, moves: 0, worstLoss: null, peak: null });
  });

  it('are stored in an order', () => {
    const [side] = figuresOf(NO_FINDINGS).sides;
    const figures = { ...side, accuracy: 81.5, peak: 77 };
    const stored = packFigures(figures);
    expect([stored[0], stored.length]).toEqual([81.5, SIDE_FIGURES.length]);
    expect(SIDE_FIGURES.map((name, index) => [name, stored[index]])).toEqual(
      SIDE_FIGURES.map((name) => [name, figures[name]]),
    );
  });
});
