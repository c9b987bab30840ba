import { describe, expect, it } from 'vitest';
import { cpScore, mateScore } from '../game/score';
import { GAME_KINDS } from '../game/ruleset';
import { chanceOf } from './chance';
import { EXACT_DEPTH } from './evaluation';
import {
  centipawnsOf,
  isRemarked,
  remarksFrom,
  remarksQuery,
  shownVerdict,
  USUAL_REMARKS,
  type Remarks,
} from './remarks';
import type { MoveReview } from './review';

const move = (
  loss: number,
  verdict: MoveReview['verdict'],
  known: Partial<MoveReview> = {},
): MoveReview =>
  ({
    ...{ side: 0, depth: 12, bestScore: cpScore(0), playedScore: cpScore(0) },
    ...{ loss, verdict, ...known },
  }) as MoveReview;
const from = (least: number): Remarks => ({ ...USUAL_REMARKS, least });

describe('what is worth a remark', () => {
  it.each([
    [6, 6, 'inaccuracy', 'inaccuracy', true],
    [7, 6.9, 'inaccuracy', 'none', false],
    [7, 7, 'inaccuracy', 'inaccuracy', true],
    [30, 25, 'blunder', 'none', false],
    // smaller than any error: a line, and no sign
    [3, 3, 'none', 'none', true],
    [3, 2.9, 'none', 'none', false],
    [30, 0, 'only move', 'only move', false],
    [30, 0, 'good', 'good', true],
    [30, 0, 'very good', 'very good', true],
  ] as const)('from %d points: a loss of %d, %s', (least, loss, verdict, shown, isWorth) => {
    expect(shownVerdict(move(loss, verdict), from(least))).toBe(shown);
    expect(isRemarked(move(loss, verdict), from(least))).toBe(isWorth);
  });

  it('is a mate that is proved and was not given, however won it stays', () => {
    const mate = { depth: EXACT_DEPTH, bestScore: mateScore(9, 0), playedScore: cpScore(3000) };
    expect(isRemarked(move(0.2, 'none', mate), from(6))).toBe(true);
    // the search alone may be wrong about it
    expect(isRemarked(move(0.2, 'none', { ...mate, depth: 30 }), from(6))).toBe(false);
    // it takes longer, and is one
    const slower = { ...mate, playedScore: mateScore(13, 0) };
    expect(isRemarked(move(0, 'none', slower), from(6))).toBe(false);
    // it is the other side's
    expect(isRemarked(move(0, 'none', { ...mate, bestScore: mateScore(9, 1) }), from(6))).toBe(
      false,
    );
  });

  it('is told in pawns where a game was level', () => {
    for (const kind of GAME_KINDS)
      for (const points of [1, 6, 12, 24, 49])
        expect(50 - chanceOf(kind, cpScore(-centipawnsOf(kind, points)), 0)).toBeCloseTo(points, 6);
  });
});

describe('remarks in an address', () => {
  const all: Remarks = { least: 4, lineMoves: 0, evaluations: false, form: 'words' };
  const read = (query: string) => remarksFrom(Object.fromEntries(new URLSearchParams(query)));

  it('come back as they were', () => {
    expect(read(remarksQuery(all))).toEqual(all);
    expect(read(remarksQuery(USUAL_REMARKS))).toEqual(USUAL_REMARKS);
  });

  it('are as usual where nothing is said, and refused where they can be none', () => {
    expect(read('')).toEqual(USUAL_REMARKS);
    expect(read('least=12')).toEqual({ ...USUAL_REMARKS, least: 12 });
    for (const wrong of [
      'least=0',
      'least=101',
      'lineMoves=61',
      'lineMoves=1.5',
      'form=loud',
      'evaluations=maybe',
    ])
      expect(read(wrong)).toBeNull();
  });
});
