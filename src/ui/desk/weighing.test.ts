import { describe, expect, it } from 'vitest';
import { cpScore } from '@/core/game/score';
import type { SearchRoot } from '@/core/game/ruleset';
import type { Engine, SearchRequest } from '@/engine/contract';
import { firstFailure, goOver, weigh, type CalculatedMove, type Weighed } from './weighing';

const root = (position: string): SearchRoot => ({ position, moveCount: 0, repeated: [] });

/** An engine that values moves as told, from the view of side 0. */
function valuing(value: (move: string, depth: number) => number, best: Record<string, string>) {
  const asked: SearchRequest[] = [];
  const engine: Engine = {
    search(request) {
      asked.push(request);
      const depth = request.limits.depth!;
      const move = request.only?.[0] ?? best[request.root.position]!;
      return Promise.resolve({
        depth,
        selectiveDepth: depth,
        nodes: 1,
        milliseconds: 5,
        lines: [{ score: cpScore(value(move, depth)), moves: [move, 'reply'] }],
      });
    },
    close: () => undefined,
  };
  return { engine, asked };
}

describe('candidates that are weighed', () => {
  const task = { kind: 'chess', root: root('here'), side: 0, candidates: ['a', 'b'] } as const;

  it('are told of only once a depth is complete for all, with the curve and the time so far', async () => {
    const { engine } = valuing((move, depth) => (move === 'a' ? depth : -depth), {});
    const told: (readonly Weighed[])[] = [];
    const stop = new AbortController();
    const show = (all: readonly Weighed[]): void => {
      told.push(all);
      if (told.length === 3) stop.abort();
    };
    await weigh(engine, task, 60_000, show, stop.signal);
    expect(told).toHaveLength(3);
    for (const all of told) expect(new Set(all.map(({ depth }) => depth)).size).toBe(1);
    const [a, b] = told[2]!;
    expect(a!.curve.map(({ depth }) => depth)).toEqual([6, 7, 8]);
    expect(a!.curve.at(-1)!.chance).toBeGreaterThan(b!.curve.at(-1)!.chance);
    expect(a!.milliseconds).toBe(15);
  });

  it('begin no further depth when the time is over', async () => {
    const { engine, asked } = valuing(() => 0, {});
    await weigh(engine, task, 0, () => undefined, new AbortController().signal);
    expect(asked).toHaveLength(2);
  });
});

describe('a calculated line', () => {
  const moves = [
    { code: 'a', side: 0, root: root('first') },
    { code: 'b', side: 1, root: root('second') },
    { code: 'c', side: 0, root: root('third') },
  ] as const;
  const over = async (value: (move: string) => number, best: Record<string, string>) => {
    const { engine, asked } = valuing(value, best);
    let steps: readonly CalculatedMove[] = [];
    const show = (all: readonly CalculatedMove[]): void => void (steps = all);
    await goOver(engine, 'chess', moves, 10, show, new AbortController().signal);
    return { steps, asked };
  };

  it('holds where every move is as good as the best', async () => {
    const { steps, asked } = await over(() => 0, { first: 'a', second: 'b', third: 'c' });
    expect(steps.map(({ loss }) => loss)).toEqual([0, 0, 0]);
    expect(firstFailure(steps)).toBe(-1);
    expect(asked).toHaveLength(3);
  });

  it('fails at the reply that was not seen, and is not gone over any further', async () => {
    // the second move is the other side's: x would leave side 0 three pawns behind
    const { steps } = await over((move) => (move === 'x' ? -300 : 0), {
      first: 'a',
      second: 'x',
      third: 'c',
    });
    expect(firstFailure(steps)).toBe(1);
    expect(steps).toHaveLength(2);
    expect(steps[1]).toMatchObject({ side: 1, better: { moves: ['x', 'reply'] } });
  });
});
