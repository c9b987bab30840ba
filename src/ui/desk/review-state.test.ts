import { describe, expect, it } from 'vitest';
import { mainLineOf } from '../../../tests/support/lines';
import type { ReviewState, SweepStatus } from '@/contract/review';
import { cpScore } from '@/core/game/score';
import { findingsFrom, mainLineCodes } from '@/core/review/findings';
import type { PositionEvaluation } from '@/core/review/evaluation';
import { askedOf, findingsFor, withNews, type KnownReview } from './review-state';

const record = mainLineOf('chess', ['e2e4', 'e7e5', 'g1f3']);
const line = mainLineCodes(record);
const sweep = (id: number, state: SweepStatus['state']): SweepStatus => ({
  inBatch: false,
  id,
  settings: 'depth 9 lines 1',
  version: 'one',
  state,
  done: 0,
  total: 4,
  error: null,
});
const found = (move: string, played?: string): PositionEvaluation => ({
  depth: 9,
  answers: played ? 2 : 1,
  lines: [{ score: cpScore(10), moves: [move] }],
  ...(played ? { played: { score: cpScore(0), moves: [played] } } : {}),
});
const NOTHING: KnownReview = { sweep: null, shown: null };
const running = (evaluations: [number, PositionEvaluation][]): ReviewState => ({
  sweep: sweep(1, 'running'),
  shown: { sweep: sweep(1, 'running'), findings: null, comparison: null, line, evaluations },
});

describe('what a page knows of a review', () => {
  it('is nothing before there is a sweep', () => {
    expect(askedOf(NOTHING, record)).toEqual({});
    const none = withNews(NOTHING, { sweep: null, shown: null }, record);
    expect(findingsFor(none, line)).toBeNull();
  });

  it('grows while a sweep goes on: what is missing is asked for, and nothing else', () => {
    const some = withNews(NOTHING, running([[0, found('e2e4')]]), record);
    expect(askedOf(some, record)).toEqual({ has: 1, known: '1000' });
    // what rests on more answers is told again
    const more = withNews(some, running([[1, found('c7c5')]]), record);
    expect(askedOf(more, record)).toEqual({ has: 1, known: '1100' });
    const priced = withNews(more, running([[1, found('c7c5', 'e7e5')]]), record);
    expect(askedOf(priced, record)).toEqual({ has: 1, known: '1200' });
    expect(priced.shown!.evaluations[0]).toBe(some.shown!.evaluations[0]);
    const known = [found('e2e4'), found('c7c5', 'e7e5'), null, null];
    expect(findingsFor(priced, line)).toEqual(findingsFrom(record, known).findings);
  });

  it('stays when the sweep is complete, and while a newer one is under way', () => {
    const all = ['e2e4', 'e7e5', 'g1f3', 'b8c6'].map((move) => found(move));
    const complete = findingsFrom(record, all);
    const some = withNews(NOTHING, running([[0, all[0]!]]), record);
    const done = withNews(
      some,
      {
        sweep: sweep(1, 'done'),
        shown: {
          sweep: sweep(1, 'done'),
          findings: complete,
          comparison: null,
          line,
          evaluations: [1, 2, 3].map((ply) => [ply, all[ply]!]),
        },
      },
      record,
    );
    expect(done.shown!.evaluations).toEqual(all);
    expect(findingsFor(done, line)).toBe(complete.findings);
    expect(askedOf(done, record)).toEqual({ has: 1, complete: '1' });
    const next = withNews(
      done,
      {
        sweep: sweep(2, 'running'),
        shown: { sweep: sweep(1, 'done'), findings: null, comparison: null, line, evaluations: [] },
      },
      record,
    );
    expect(next.sweep!.id).toBe(2);
    expect(findingsFor(next, line)).toBe(complete.findings);
    // the newer one replaces it as a whole
    const replaced = withNews(
      next,
      {
        sweep: sweep(2, 'done'),
        shown: {
          sweep: sweep(2, 'done'),
          findings: complete,
          comparison: null,
          line,
          evaluations: [[0, all[0]!]],
        },
      },
      record,
    );
    expect(replaced.shown!.evaluations).toEqual([all[0], null, null, null]);
  });

  it('is asked for anew where the game has become another', () => {
    const some = withNews(NOTHING, running([[0, found('e2e4')]]), record);
    const other = mainLineOf('chess', ['e2e4', 'c7c5']);
    expect(askedOf(some, other)).toEqual({});
    // what was found is true of the moves in common
    expect(findingsFor(some, mainLineCodes(other))!.moves.map((move) => move?.ply ?? null)).toEqual(
      [1, null],
    );
    // and is not taken for the other game's
    const news = withNews(some, running([]), other);
    expect(news.shown!.partial).toBeNull();
  });
});
