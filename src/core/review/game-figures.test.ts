import { describe, expect, it } from 'vitest';
import { accuracyOf } from './accuracy';
import { figuresOf } from './game-figures';
import type { Findings, MoveReview } from './review';
import { NO_FINDINGS } from './review';

const move = (ply: number, loss: number, verdict: MoveReview['verdict']): MoveReview =>
  ({ ply, side: (ply + 1) % 2, loss, verdict }) as MoveReview;

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
    const { trend, sides } = figuresOf(findings);
    expect(trend).not.toBeNull();
    expect(sides[0]).toEqual({
      accuracy: 50,
      error: null,
      moves: 1,
      meanLoss: 12,
      flags: { blunder: 2, mistake: 2, inaccuracy: 0 },
      // the first of equals
      worst: { ply: 3, loss: 30 },
    });
    expect(sides[1]).toMatchObject({
      accuracy: 100,
      flags: { blunder: 0, mistake: 0, inaccuracy: 1 },
      worst: { ply: 2, loss: 7 },
    });
  });

  it('name no worst move where none was flagged, and nothing of a game that is not known', () => {
    const quiet = { ...NO_FINDINGS, moves: [move(1, 5.9, 'none'), move(2, 0, 'good')] };
    expect(figuresOf(quiet).sides.map(({ worst }) => worst)).toEqual([null, null]);
    const { trend, sides } = figuresOf(NO_FINDINGS);
    expect(trend).toBeNull();
    expect(sides[0]).toMatchObject({ accuracy: null, moves: 0, worst: null });
  });
});
