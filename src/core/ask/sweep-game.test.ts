import { describe, expect, it } from 'vitest';
import { mainLineOf } from '../../../tests/support/lines';
import { cpScore, mateScore } from '../game/score';
import { MOST_NODES_FOR_DEPTH, PRICING_SHARE } from './evaluate';
import { CalledOff, type Ask, type Question } from './question';
import { sweepGame } from './sweep-game';
import { sweptPositions, type Swept } from './swept';

const FOOLS_MATE = ['f2f3', 'e7e5', 'g2g4', 'd8h4'];

/** Finds e2e4 or e7e5 best wherever it is asked; the move of a price as worse by 50. */
function engine(calledOffAt = Infinity) {
  const asked: Question[] = [];
  const ask: Ask = async (question) => {
    await new Promise((later) => setTimeout(later, (asked.length * 7) % 3));
    if (asked.push(question) > calledOffAt) throw new CalledOff();
    const move = question.only?.[0] ?? 'e7e5';
    return {
      depth: 9,
      nodes: 1000,
      milliseconds: 1,
      lines: [{ score: cpScore(question.only ? 50 : 0), moves: [move] }],
    };
  };
  return { ask, asked };
}

describe('a sweep of a game', () => {
  const settings = { nodes: 5000, lines: 2 };

  it('prices the moves that are not among the lines, and tells of each position', async () => {
    const { ask, asked } = engine();
    const told: number[] = [];
    const tell = ({ done }: Swept): void => void told.push(done);
    const { done, evaluations } = await sweepGame(mainLineOf('chess', FOOLS_MATE), settings)(
      ask,
      tell,
    );
    // the last position is mate: nothing to ask
    expect(told).toEqual([2, 3, 4, 5]);
    expect(done).toBe(5);
    expect(evaluations().map((found) => found?.lines[0]?.moves[0] ?? null)).toEqual([
      'e7e5',
      'e7e5',
      'e7e5',
      'e7e5',
      null,
    ]);
    // e7e5 was played at the second: no price is asked for there
    expect(evaluations().map((found) => found?.played?.moves[0] ?? null)).toEqual([
      'f2f3',
      null,
      'g2g4',
      'd8h4',
      null,
    ]);
    expect(asked.filter(({ only }) => only === undefined)).toHaveLength(4);
    expect(asked.filter(({ only }) => only !== undefined)).toHaveLength(3);
  });

  it('asks from a cleared table, within its budget, and prices at the depth of the lines', async () => {
    const { ask, asked } = engine();
    await sweepGame(mainLineOf('chess', ['f2f3']), { depth: 12, lines: 4 })(ask, () => undefined);
    const main = asked.find(({ only }) => only === undefined);
    const priced = asked.find(({ only }) => only !== undefined);
    expect(main).toMatchObject({
      budget: { depth: 12, nodes: MOST_NODES_FOR_DEPTH },
      lines: 4,
      fresh: true,
    });
    expect(priced).toMatchObject({
      budget: { depth: 9, nodes: PRICING_SHARE * 1000, mate: true },
      lines: 1,
      only: ['f2f3'],
      fresh: true,
    });
  });

  it('ends where it is called off', async () => {
    const { ask } = engine(2);
    const told: number[] = [];
    const swept = sweepGame(mainLineOf('chess', FOOLS_MATE), settings)(
      ask,
      ({ done }) => void told.push(done),
    );
    await expect(swept).rejects.toBeInstanceOf(CalledOff);
    expect(told.length).toBeLessThan(4);
  });

  it('knows of each position what came before it and what was played', () => {
    const positions = sweptPositions(mainLineOf('chess', FOOLS_MATE));
    expect(positions.map(({ ply, played, over }) => [ply, played, over])).toEqual([
      [0, 'f2f3', null],
      [1, 'e7e5', null],
      [2, 'g2g4', null],
      [3, 'd8h4', null],
      [4, null, mateScore(0, 1)],
    ]);
  });
});
