import { describe, expect, it } from 'vitest';
import type { SearchRoot } from '../game/ruleset';
import { cpScore } from '../game/score';
import { firstFailure, goOver, type CalculatedMove } from './go-over';
import { CalledOff, type Ask, type Question } from './question';
import { weigh, type Weighed } from './weigh';

const root = (position: string): SearchRoot => ({ position, moveCount: 0, repeated: [] });

/** Answers that value moves as told, from the view of side 0; called off from the question at `calledOffAt` on. */
function valuing(
  value: (move: string, depth: number) => number,
  best: Record<string, string>,
  calledOffAt = Infinity,
) {
  const asked: Question[] = [];
  const ask: Ask = (question) => {
    if (asked.length >= calledOffAt) return Promise.reject(new CalledOff());
    asked.push(question);
    const depth = question.budget.depth!;
    const move = question.only?.[0] ?? best[question.root.position]!;
    return Promise.resolve({
      depth,
      nodes: 1,
      milliseconds: 5,
      lines: [{ score: cpScore(value(move, depth)), moves: [move, 'reply'] }],
    });
  };
  return { ask, asked };
}

describe('candidates that are weighed', () => {
  const task = { kind: 'chess', root: root('here'), side: 0, candidates: ['a', 'b'] } as const;

  it('are told of only once a depth is complete for all, with the curve and the time so far', async () => {
    const { ask } = valuing((move, depth) => (move === 'a' ? depth : -depth), {});
    const told: (readonly Weighed[])[] = [];
    const found = await weigh(task, () => told.length < 3)(ask, (all) => void told.push(all));
    expect(found).toBe(told[2]);
    expect(told).toHaveLength(3);
    for (const all of told) expect(new Set(all.map(({ depth }) => depth)).size).toBe(1);
    const [a, b] = told[2]!;
    expect(a!.curve.map(({ depth }) => depth)).toEqual([6, 7, 8]);
    expect(a!.curve.at(-1)!.chance).toBeGreaterThan(b!.curve.at(-1)!.chance);
    expect(a!.milliseconds).toBe(15);
  });

  it('begin no further depth when the time is over', async () => {
    const { ask, asked } = valuing(() => 0, {});
    await weigh(task, () => false)(ask, () => undefined);
    expect(asked).toHaveLength(2);
  });

  it('end where they are called off, in the middle of a depth', async () => {
    const { ask } = valuing(() => 0, {}, 3);
    const told: unknown[] = [];
    const weighing = weigh(task, () => true)(ask, (all) => void told.push(all));
    await expect(weighing).rejects.toBeInstanceOf(CalledOff);
    expect(told).toHaveLength(1);
  });

  it('end where there is nothing to weigh', async () => {
    const none: Ask = () => Promise.resolve({ depth: 6, nodes: 1, milliseconds: 1, lines: [] });
    expect(await weigh(task, () => true)(none, () => undefined)).toEqual([]);
  });
});

describe('a calculated line', () => {
  const moves = [
    { code: 'a', side: 0, root: root('first') },
    { code: 'b', side: 1, root: root('second') },
    { code: 'c', side: 0, root: root('third') },
  ] as const;
  const over = async (value: (move: string) => number, best: Record<string, string>) => {
    const { ask, asked } = valuing(value, best);
    const told: (readonly CalculatedMove[])[] = [];
    const steps = await goOver('chess', moves, 10)(ask, (all) => void told.push(all));
    expect(told.at(-1)).toEqual(steps);
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
