import { describe, expect, it } from 'vitest';
import { cpScore, mateScore, type Score } from '../game/score';
import { CHANCE_SCALE } from '../review/chance';
import { AHEAD_SHARE, howFarAhead, MOST_PLIES_AHEAD, type Sight } from './how-far-ahead';
import { questionText, type Ask, type Question } from './question';

const AT = {
  kind: 'chess',
  root: { position: 'here', moveCount: 0, repeated: [] },
  side: 0,
} as const;
const EFFORT = { nodes: 1000 };

const scoreAt = (chance: number): Score =>
  cpScore(CHANCE_SCALE.chess * Math.log(chance / (100 - chance)));

/** What plain searches of each depth say, from the first on. */
function engine(values: readonly (readonly [move: string, score: Score][])[], nodes = 1) {
  const asked: Question[] = [];
  const ask: Ask = (question) => {
    asked.push(question);
    const depth = question.budget.depth!;
    const lines = values[depth - 1]!.map(([move, score]) => ({ moves: [move], score }));
    return Promise.resolve({ depth, nodes, milliseconds: nodes, lines });
  };
  return { ask, asked };
}

/** A plain search that sees an error lose so many points, by depth. */
const losing = (...losses: number[]) =>
  engine(
    losses.map((loss) => [
      ['better', scoreAt(50)],
      ['error', scoreAt(50 - loss)],
    ]),
  );
const error = (loss: number): Sight => ({ error: 'error', better: 'better', loss });

describe('how far ahead an error lies', () => {
  it.each([
    [20, [20, 20], { plies: 1, deepest: 2 }],
    [20, [0, 20, 20], { plies: 2, deepest: 3 }],
    // half of what it loses is enough, and less is not
    [20, [9.9, 10.1, 10.1], { plies: 2, deepest: 3 }],
    // but no less than an inaccuracy
    [7, [5.9, 6.1, 6.1], { plies: 2, deepest: 3 }],
    // what a further ply no longer sees was chance
    [20, [20, 0, 0, 20, 20], { plies: 4, deepest: 5 }],
    [20, [0, 0, 0, 0, 0, 20], { plies: 6, deepest: 6 }],
    [20, [0, 0, 0, 0, 0, 0], { plies: null, deepest: 6 }],
    [20, [20, 0, 0, 0, 0, 0], { plies: null, deepest: 6 }],
  ])('that loses %d, seen to lose %j', async (loss, losses, seen) => {
    const { ask, asked } = losing(...losses);
    expect(await howFarAhead(ask, AT, error(loss), EFFORT)).toEqual(seen);
    expect(asked.map(({ budget }) => budget.depth)).toEqual(
      Array.from({ length: seen.deepest }, (_, index) => index + 1),
    );
  });

  it('is asked of both moves alone', async () => {
    const { ask, asked } = losing(20, 20);
    await howFarAhead(ask, AT, error(20), EFFORT);
    for (const question of asked)
      expect(question).toMatchObject({
        only: ['better', 'error'],
        lines: 2,
        plain: true,
        fresh: true,
      });
  });

  it('is a loss of who is to move', async () => {
    const { ask } = losing(20, 20, 20, 20, 20, 20);
    const seen = await howFarAhead(ask, { ...AT, side: 1 }, error(20), EFFORT);
    expect(seen).toEqual({ plies: null, deepest: MOST_PLIES_AHEAD });
  });

  it('counts a mate as all that there is to lose', async () => {
    const mated = engine([
      [
        ['better', scoreAt(50)],
        ['error', mateScore(2, 1)],
      ],
      [
        ['better', scoreAt(50)],
        ['error', mateScore(2, 1)],
      ],
    ]);
    expect(await howFarAhead(mated.ask, AT, error(50), EFFORT)).toEqual({ plies: 1, deepest: 2 });
  });
});

describe('how far ahead a good move lies', () => {
  const finding = (...found: boolean[]) =>
    engine(found.map((isFound) => [[isFound ? 'good' : 'other', scoreAt(50)]]));

  it.each([
    [[true, true], { plies: 1, deepest: 2 }],
    [[false, true, false, true, true], { plies: 4, deepest: 5 }],
    [[false, false, false, false, false, false], { plies: null, deepest: 6 }],
  ])('found: %j', async (found, seen) => {
    const { ask, asked } = finding(...found);
    expect(await howFarAhead(ask, AT, { find: 'good' }, EFFORT)).toEqual(seen);
    expect(asked.every(({ only, lines }) => only === undefined && lines === 1)).toBe(true);
  });

  it('is not known beyond what may be spent', async () => {
    const least = Math.round(AHEAD_SHARE * EFFORT.nodes);
    const { ask, asked } = engine(
      Array.from({ length: MOST_PLIES_AHEAD }, () => [['other', scoreAt(50)]]),
      least / 2,
    );
    expect(await howFarAhead(ask, AT, { find: 'good' }, EFFORT)).toEqual({
      plies: null,
      deepest: 2,
    });
    expect(asked.map(({ budget }) => budget.nodes)).toEqual([least, least / 2]);
  });

  it('is not known from a depth that was not completed', async () => {
    const { ask } = finding(false, true, true);
    const cut: Ask = async (question) => {
      const answer = await ask(question);
      return answer.depth === 3 ? { ...answer, depth: 2 } : answer;
    };
    expect(await howFarAhead(cut, AT, { find: 'good' }, EFFORT)).toEqual({ plies: 2, deepest: 2 });
  });

  it('goes by time where that is what may be spent', async () => {
    const { ask, asked } = finding(true, true);
    await howFarAhead(ask, AT, { find: 'good' }, { milliseconds: 1000 });
    expect(asked.map(questionText)).toEqual([
      'depth 1 milliseconds 420 plain lines 1',
      'depth 2 milliseconds 419 plain lines 1',
    ]);
  });
});
