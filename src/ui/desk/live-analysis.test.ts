import { describe, expect, it } from 'vitest';
import { cpScore } from '@/core/game/score';
import { rulesetOf } from '@/core/rulesets';
import type { Answer, Question } from '@/core/ask/question';
import type { Engine } from '@/engine/contract';
import { LiveAnalysis, passedRoot, type Live, type Task } from './live-analysis';

const chess = rulesetOf('chess');
const start = chess.start();

const task = (place: string, wanted: Partial<Task> = {}): Task => ({
  place,
  kind: 'chess',
  root: chess.searchRoot(start, []),
  side: 0,
  lines: 2,
  played: null,
  passed: null,
  ...wanted,
});

/** An engine that reports a depth whenever it is told to, and answers limited searches at once. */
function scripted() {
  const asked: Question[] = [];
  let report: ((depth: number, cp?: number) => void) | null = null;
  const infoAt = (depth: number, moves: string[], cp: number): Answer => ({
    depth,
    selectiveDepth: depth,
    nodes: 1000 * depth,
    milliseconds: depth,
    lines: moves.map((move, index) => ({ score: cpScore(cp - index * 10), moves: [move] })),
  });
  let isLost = false;
  const engine: Engine = {
    search(request, options) {
      asked.push(request);
      if (isLost) return Promise.reject(new Error('lost'));
      if (request.only)
        return Promise.resolve(infoAt(request.budget.depth!, [...request.only], -80));
      if (request.budget.milliseconds) return Promise.resolve(infoAt(6, ['e7e5'], -30));
      return new Promise((resolve) => {
        let last = infoAt(0, ['e2e4', 'd2d4'], 20);
        report = (depth, cp = 20) => {
          last = infoAt(depth, ['e2e4', 'd2d4'], cp);
          options?.onInfo?.(last);
        };
        options?.signal?.addEventListener('abort', () => resolve(last));
      });
    },
    close: () => undefined,
  };
  return {
    engine,
    asked,
    report: (depth: number, cp?: number) => report?.(depth, cp),
    lose: (lost: boolean) => void (isLost = lost),
  };
}

const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

function watch() {
  const { engine, ...script } = scripted();
  const seen: Live[] = [];
  const failures: number[] = [];
  const analysis = new LiveAnalysis(
    engine,
    (live) => seen.push(live),
    () => failures.push(script.asked.length),
  );
  return { analysis, seen, failures, ...script };
}

describe('live analysis', () => {
  it('tells when its engine fails, and goes on with the next position', async () => {
    const { analysis, seen, failures, report, lose } = watch();
    lose(true);
    analysis.think(task('a'));
    await settle();
    expect(failures).toEqual([1]);
    lose(false);
    analysis.think(task('b'));
    report(5);
    expect(seen.at(-1)).toMatchObject({ place: 'b', info: { depth: 5 } });
    // what is no longer wanted may fail unheard
    lose(true);
    analysis.think(task('c'));
    analysis.pause();
    await settle();
    expect(failures).toEqual([1]);
  });

  it('keeps what was known more deeply when a position is visited again', async () => {
    const { analysis, seen, report } = watch();
    analysis.think(task('a'));
    report(9);
    report(10, 35);
    analysis.think(task('b'));
    await settle();
    report(4);
    expect(seen.at(-1)).toMatchObject({ place: 'b', info: { depth: 4 } });
    analysis.think(task('a'));
    expect(seen.at(-1)).toMatchObject({ place: 'a', info: { depth: 10 } });
    report(5);
    expect(seen.at(-1)).toMatchObject({ place: 'a', info: { depth: 10 } });
    report(11);
    expect(seen.at(-1)!.curve.map(({ depth }) => depth)).toEqual([9, 10, 11]);
  });

  it('never reports a position that was left', () => {
    const { analysis, seen, report } = watch();
    analysis.think(task('a'));
    report(9);
    analysis.pause();
    report(10);
    expect(seen.map(({ info }) => info.depth)).toEqual([9]);
  });

  it('prices the move played where it is outside the lines, at the depth of the lines', async () => {
    const { analysis, seen, asked, report } = watch();
    analysis.think(task('a', { played: 'a2a4' }));
    report(5);
    await settle();
    expect(seen.at(-1)!.played).toBeNull();
    report(9);
    await settle();
    expect(asked.map(({ only, budget }) => [only, budget.depth])).toContainEqual([['a2a4'], 9]);
    expect(seen.at(-1)!.played).toMatchObject({ depth: 9, line: { score: cpScore(-80) } });
    report(10);
    await settle();
    expect(asked.filter(({ only }) => only)).toHaveLength(1);
    report(11);
    await settle();
    expect(seen.at(-1)!.played).toMatchObject({ depth: 11 });
  });

  it('prices another move anew, and keeps the best score of the same depth beside a price', async () => {
    const { analysis, seen, report } = watch();
    analysis.think(task('a', { played: 'a2a4' }));
    report(9, 35);
    await settle();
    report(10, 60);
    expect(seen.at(-1)!.played).toMatchObject({ code: 'a2a4', depth: 9, best: cpScore(35) });
    analysis.think(task('a', { played: 'h2h4' }));
    await settle();
    report(10, 60);
    await settle();
    expect(seen.at(-1)!.played).toMatchObject({ code: 'h2h4', depth: 10, best: cpScore(60) });
  });

  it('needs no price for a move that is among the lines', async () => {
    const { analysis, asked, report } = watch();
    analysis.think(task('a', { played: 'd2d4' }));
    report(12);
    await settle();
    expect(asked).toHaveLength(1);
  });

  it('looks for the threat of the other side once', async () => {
    const { analysis, seen, asked } = watch();
    const passed = passedRoot(chess, start);
    analysis.think(task('a', { passed }));
    await settle();
    expect(seen.at(-1)!.threat!.moves).toEqual(['e7e5']);
    analysis.think(task('a', { passed }));
    await settle();
    expect(asked.filter(({ root }) => root === passed)).toHaveLength(1);
  });
});

describe('passing', () => {
  it('is not to be had in check or where the game is over', () => {
    expect(passedRoot(chess, start)!.position).toContain(' b ');
    expect(passedRoot(chess, chess.start('4k3/8/8/8/8/8/4r3/4K3 w - - 0 1'))).toBeNull();
    expect(passedRoot(chess, chess.start('7k/5Q2/6K1/8/8/8/8/8 b - - 0 1'))).toBeNull();
  });
});
