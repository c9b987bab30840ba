import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mainLineOf } from '../../../tests/support/lines';
import { cpScore, mateScore, type Score } from '../game/score';
import { chess } from '../chess/ruleset';
import { CHANCE_SCALE } from '../review/chance';
import { EXACT_DEPTH, type PositionEvaluation } from '../review/evaluation';
import type { Scope } from '../review/sweep-settings';
import { LOOKS } from './game-looks';
import { AHEAD_SHARE } from './how-far-ahead';
import { CalledOff, questionText, type Ask, type Question } from './question';
import { GLANCE, settleGame } from './settle-game';
import { sweptPositions, type LineSwept } from './swept';

const MOVES = ['e2e4', 'e7e5', 'g1f3', 'b8c6', 'f1c4', 'g8f6'];
const POSITIONS = sweptPositions(mainLineOf('chess', MOVES));
const NODES = 16_000;
const EFFORT = { nodes: NODES };
/** Nodes of each look. */
const [SHORT, LONG, LAST] = LOOKS.map((share) => share * NODES) as [number, number, number];
const GLANCED = GLANCE * NODES;

/** What gives side 0 such a chance. */
const scoreAt = (chance: number): Score =>
  cpScore(CHANCE_SCALE.chess * Math.log(chance / (100 - chance)));

interface Said {
  /** Chance of side 0, or a score. */
  value?: number | Score;
  /** UCI; else the move that was played. */
  best?: string;
  /** Chance points by which the second line is worse. */
  margin?: number;
}

/** An engine that says the same everywhere but where it is told otherwise. */
function engine(say: (ply: number, nodes: number, lines: number) => Said) {
  const asked: { ply: number; nodes: number; lines: number; depth?: number }[] = [];
  const plyOf = ({ root }: Question): number =>
    POSITIONS.findIndex((position) => position.root.position === root.position);
  const ask: Ask = (question) => {
    const ply = plyOf(question);
    const [{ nodes = 0, depth }, { lines }] = [question.budget, question];
    asked.push({ ply, nodes, lines, ...(depth ? { depth } : {}) });
    const { value = 50, best = MOVES[ply] ?? 'a7a6', margin = 40 } = say(ply, nodes, lines);
    const score = typeof value === 'number' ? scoreAt(value) : value;
    const side = chess.side(POSITIONS[ply]!.position as never);
    const second = scoreAt(50 + (side === 0 ? -margin : margin));
    return Promise.resolve({
      depth: depth ?? Math.round(Math.log2(nodes)),
      nodes,
      milliseconds: 1,
      lines: [
        { score, moves: [best] },
        ...Array.from({ length: lines - 1 }, (_, other) => ({
          score: second,
          moves: [`other${other}`],
        })),
      ],
    });
  };
  return { ask, asked };
}

async function settle(ask: Ask, effort: { nodes: number } | { milliseconds: number } = EFFORT) {
  const told: number[] = [];
  const found = await settleGame(
    'chess',
    POSITIONS,
    effort,
  )(ask, ({ done }) => void told.push(done));
  return { ...found, told, evaluations: found.evaluations() };
}

const looksAt = (asked: ReturnType<typeof engine>['asked'], ply: number, lines = 1): number[] =>
  asked
    .filter((one) => one.ply === ply && one.lines === lines && one.depth === undefined)
    .map(({ nodes }) => nodes);

describe('an effort that is distributed over a game', () => {
  it('is small where the best was played and nothing moves', async () => {
    const { ask, asked } = engine(() => ({}));
    const { evaluations } = await settle(ask);
    for (const { ply } of POSITIONS) {
      expect(looksAt(asked, ply)).toEqual([SHORT]);
      // whether it was the only move, but not behind the last one
      expect(looksAt(asked, ply, 2)).toEqual(ply < MOVES.length ? [GLANCED, SHORT] : []);
    }
    expect(evaluations[1]).toMatchObject({ lines: [{ moves: ['e7e5'] }], compared: [{}, {}] });
    expect(evaluations.some((found) => found!.isUnsettled || found!.played)).toBe(false);
  });

  it('asks a search that ends with a mate, from a cleared table', async () => {
    const questions: Question[] = [];
    const { ask } = engine(() => ({}));
    await settle((question) => {
      questions.push(question);
      return ask(question);
    });
    for (const { budget, fresh, plain } of questions) {
      if (!plain) expect(budget).toEqual({ nodes: expect.any(Number) as number, mate: true });
      expect(fresh).toBe(true);
    }
  });

  it('goes by time where time is given', async () => {
    const budgets = new Set<string>();
    const { ask } = engine(() => ({}));
    await settle(
      (question) => {
        budgets.add(questionText(question));
        return ask({ ...question, budget: { ...question.budget, nodes: 1 } });
      },
      { milliseconds: 1600 },
    );
    expect([...budgets]).toEqual([
      'milliseconds 269 mate lines 1',
      'milliseconds 67 mate lines 2',
      'milliseconds 269 mate lines 2',
      'depth 1 milliseconds 672 plain lines 1',
      'depth 2 milliseconds 671 plain lines 1',
    ]);
  });

  it('grows where a loss lies near a threshold, before the move and after it, and nowhere else', async () => {
    // the third move loses 13 points, whatever is spent
    const { ask, asked } = engine((ply) => ({
      value: ply <= 2 ? 63 : 50,
      ...(ply === 2 ? { best: 'd2d4' } : {}),
    }));
    const { evaluations } = await settle(ask);
    for (const ply of [2, 3]) expect(looksAt(asked, ply)).toEqual([SHORT, LONG, LAST]);
    for (const ply of [0, 1, 4, 5, 6]) expect(looksAt(asked, ply)).toEqual([SHORT]);
    // its place among several moves is asked for
    expect(looksAt(asked, 2, 6)).toEqual([SHORT]);
    expect(evaluations[2]).toMatchObject({
      lines: [{ score: scoreAt(63), moves: ['d2d4'] }],
      played: { score: cpScore(0), moves: ['g1f3', 'b8c6'] },
      isUnsettled: true,
    });
    expect(evaluations[2]!.compared).toHaveLength(6);
    expect(evaluations[3]!.isUnsettled).toBeUndefined();
  });

  it('stops where a large loss holds', async () => {
    const { ask, asked } = engine((ply) => ({
      value: ply <= 2 ? 90 : 50,
      ...(ply === 2 ? { best: 'd2d4' } : {}),
    }));
    const { evaluations } = await settle(ask);
    expect(looksAt(asked, 2)).toEqual([SHORT, LONG]);
    expect(evaluations[2]!.isUnsettled).toBeUndefined();
  });

  it('sees with a longer look that a move loses nothing', async () => {
    const { ask } = engine((ply, nodes) =>
      ply === 2 && nodes < LONG ? { value: 60, best: 'd2d4' } : {},
    );
    const { evaluations } = await settle(ask);
    expect(evaluations[2]).toMatchObject({ lines: [{ moves: ['g1f3'] }] });
    expect(evaluations[2]!.played).toBeUndefined();
  });

  it('looks as long behind a position whose best move has changed', async () => {
    // the second move is in doubt, so that the third position is looked at longer, and another move turns out best there
    const { ask, asked } = engine((ply, nodes) => {
      if (ply === 1) return { value: 40, best: 'c7c5' };
      return ply === 2 && nodes >= LONG ? { best: 'd2d4', value: 51 } : {};
    });
    await settle(ask);
    expect(looksAt(asked, 3)).toEqual([SHORT, LONG]);
    expect(looksAt(asked, 4)).toEqual([SHORT]);
  });

  it('takes a value found deeper in the game back to the moves before it', async () => {
    // behind the fourth move it is better than what seemed best
    const { ask } = engine((ply, nodes) => {
      if (ply === 3)
        return { value: nodes >= LONG ? 57 : 50, best: nodes >= LONG ? 'd7d5' : 'b8c6' };
      return ply === 4 ? { value: 55 } : {};
    });
    const { evaluations } = await settle(ask);
    expect(evaluations[3]!.lines[0]).toEqual({ score: scoreAt(55), moves: ['b8c6', 'f1c4'] });
    expect(evaluations[3]!.played).toBeUndefined();
    // the longer look at the fourth move's position holds for the best moves that led to it
    const { ask: other } = engine((ply, nodes) => {
      if (ply === 3) return { value: nodes >= LONG ? 41 : 42, best: 'd7d5' };
      return { value: ply < 3 ? 44 : 50 };
    });
    const taken = (await settle(other)).evaluations;
    expect(taken[2]!.lines[0]).toEqual({ score: scoreAt(41), moves: ['g1f3', 'd7d5'] });
    expect(taken[1]!.lines[0]!.moves).toEqual(['e7e5', 'g1f3', 'd7d5']);
  });

  it('tells a mate as one ply further from the move before it', async () => {
    const { ask } = engine((ply) =>
      ply === 4 ? { value: mateScore(3, 0) } : ply === 3 ? { best: 'd7d5' } : {},
    );
    expect((await settle(ask)).evaluations[3]!.played).toEqual({
      score: mateScore(4, 0),
      moves: ['b8c6', 'f1c4'],
    });
  });

  it.each([
    [3.9, [GLANCED]],
    [4.1, [GLANCED, SHORT]],
    [7.9, [GLANCED, SHORT]],
    [8.1, [GLANCED, SHORT, LONG]],
    [15.9, [GLANCED, SHORT, LONG]],
    [16.1, [GLANCED, SHORT]],
  ])('looks once more whether a move is the only one by %d points', async (margin, nodes) => {
    const { ask, asked } = engine(() => ({ margin }));
    await settle(ask);
    expect(looksAt(asked, 1, 2)).toEqual(nodes);
  });

  it('does not ask whether a recapture is the only move', async () => {
    // the third and the fourth move take where the other side has just moved
    const recapture = ['e2e4', 'd7d5', 'e4d5', 'd8d5', 'b1c3'];
    const positions = sweptPositions(mainLineOf('chess', recapture));
    const compared: number[] = [];
    await settleGame(
      'chess',
      positions,
      EFFORT,
    )(
      ({ root, lines, budget }) => {
        const ply = positions.findIndex((position) => position.root.position === root.position);
        if (lines > 1) compared.push(ply);
        const line = { score: cpScore(0), moves: [recapture[ply] ?? 'a7a6'] };
        return Promise.resolve({
          depth: 5,
          nodes: budget.nodes!,
          milliseconds: 1,
          lines: [line, line],
        });
      },
      () => undefined,
    );
    expect(compared.sort()).toEqual([0, 1, 4]);
  });

  it('asks nothing where the rules have ended the game, and takes their word', async () => {
    const fools = ['f2f3', 'e7e5', 'g2g4', 'd8h4'];
    const positions = sweptPositions(mainLineOf('chess', fools));
    const asked = new Set<number>();
    const { evaluations } = await settleGame(
      'chess',
      positions,
      EFFORT,
    )(
      ({ root, budget }) => {
        const ply = positions.findIndex((position) => position.root.position === root.position);
        asked.add(ply);
        const line = { score: cpScore(0), moves: [ply === 3 ? 'a7a6' : fools[ply]!] };
        return Promise.resolve({ depth: 5, nodes: budget.nodes!, milliseconds: 1, lines: [line] });
      },
      () => undefined,
    );
    expect([...asked].sort()).toEqual([0, 1, 2, 3]);
    // it was mate, which the search had not seen
    expect(evaluations()[3]!.lines[0]).toEqual({ score: mateScore(1, 1), moves: ['d8h4'] });
    expect(evaluations()[4]).toBeNull();
  });

  /** Whatever an engine might say, the same each time. */
  const wild = (seed: number) =>
    engine((ply, nodes, lines) => {
      const draw = (Math.imul(seed + 31 * ply + 7 * nodes + lines, 2_654_435_761) >>> 8) % 1000;
      return {
        value: 20 + (draw % 60),
        ...(draw > 400 ? { best: 'h2h3' } : {}),
        margin: draw % 30,
      };
    });

  it('asks the same and finds the same in whatever order answers come', () =>
    fc.assert(
      fc.asyncProperty(
        fc.nat(10_000),
        fc.array(fc.nat(3), { maxLength: 20 }),
        async (seed, waits) => {
          const [plain, late] = [wild(seed), wild(seed)];
          const expected = await settle(plain.ask);
          let at = 0;
          const found = await settle(async (question) => {
            for (let wait = waits[at++ % 20] ?? 0; wait > 0; wait--) await Promise.resolve();
            return late.ask(question);
          });
          expect(found.evaluations).toEqual(expected.evaluations);
          const name = ({ ply, nodes, lines, depth }: (typeof plain.asked)[number]) =>
            `${ply} ${nodes} ${lines} ${depth}`;
          expect(late.asked.map(name).sort()).toEqual(plain.asked.map(name).sort());
        },
      ),
    ));

  it('never spends more than five times the average on a position, and asks nothing twice', () =>
    fc.assert(
      fc.asyncProperty(fc.nat(10_000), async (seed) => {
        const { ask, asked } = wild(seed);
        const { told, done, total } = await settle(ask);
        for (const { ply } of POSITIONS) {
          const spent = asked
            .filter((one) => one.ply === ply)
            .reduce((sum, { nodes }) => sum + nodes, 0);
          expect(spent).toBeLessThanOrEqual(5 * NODES);
        }
        expect(new Set(asked.map((one) => JSON.stringify(one))).size).toBe(asked.length);
        // it only ever comes further, and is told of each answer
        expect(told.toSorted((a, b) => a - b)).toEqual(told);
        expect([done, total]).toEqual([POSITIONS.length, POSITIONS.length]);
      }),
    ));

  it('comes to five times the average at most where all of it is asked about one position', () => {
    const comparing = GLANCED + 2 * SHORT + LONG;
    const ahead = AHEAD_SHARE * NODES;
    expect(SHORT + LONG + LAST + comparing + ahead).toBeLessThanOrEqual(5 * NODES);
  });

  const settleScope = async (scope: Scope) => {
    // the third move and the fourth lose 13 points each
    const { ask, asked } = engine((ply) => ({
      value: ply === 3 ? 50 : 63,
      ...(ply === 2 || ply === 3 ? { best: 'a2a4' } : {}),
    }));
    const { done, total, evaluations } = await settleGame(
      'chess',
      POSITIONS,
      EFFORT,
      scope,
    )(ask, () => undefined);
    expect(done).toBe(total);
    return { asked, total, evaluations: evaluations() };
  };
  const outside = (evaluations: readonly (PositionEvaluation | null)[]) =>
    evaluations.map((found) => (found ? (found.isOutside ?? false) : null));

  it('goes over a stretch alone, with the position behind it', async () => {
    const { asked, total, evaluations } = await settleScope({ from: 3, to: 4 });
    expect([...new Set(asked.map(({ ply }) => ply))].sort()).toEqual([2, 3, 4]);
    expect(total).toBe(3);
    expect(outside(evaluations)).toEqual([null, null, false, false, true, null, null]);
  });

  it.each([
    // nothing follows the other side's last move, nothing comes before its first
    [0, [false, true, false, true, false, true, null]],
    [1, [null, false, true, false, true, false, true]],
  ] as const)("goes over one side's moves alone: %d", async (side, isOutside) => {
    const { asked, total, evaluations } = await settleScope({ side });
    expect(outside(evaluations)).toEqual(isOutside);
    expect(total).toBe(POSITIONS.length - 1);
    // the third move is the first side's, the fourth the other's
    const [third, fourth] = [looksAt(asked, 2, 6), looksAt(asked, 3, 6)];
    expect([third.length, fourth.length]).toEqual(side === 0 ? [1, 0] : [0, 1]);
  });

  it('tells of what follows from the answers there are when one is missing', async () => {
    const { ask } = engine((ply) => (ply === 2 ? { value: 63, best: 'd2d4' } : {}));
    let latest: LineSwept | null = null;
    const settling = settleGame(
      'chess',
      POSITIONS,
      EFFORT,
    )(
      (question) =>
        question.budget.nodes! >= LONG ? Promise.reject(new CalledOff()) : ask(question),
      (swept) => (latest = swept),
    );
    await expect(settling).rejects.toBeInstanceOf(CalledOff);
    const evaluations = (latest as LineSwept | null)!.evaluations();
    expect(evaluations.every((found) => found !== null)).toBe(true);
    expect(evaluations[2]).toMatchObject({ isUnsettled: true });
    expect((latest as LineSwept | null)!.done).toBeLessThan(POSITIONS.length);
  });

  it('counts the answers that an evaluation rests on', async () => {
    const { ask } = engine(() => ({}));
    const { evaluations } = await settle(ask);
    // a look, two comparisons and how far ahead one sees at each ply, of four plies; at the last only a look
    expect(evaluations.map((found) => found!.answers)).toEqual([16, 16, 16, 13, 9, 5, 1]);
  });
});

describe('mates of shogi', () => {
  const SHOGI = sweptPositions(mainLineOf('shogi', ['7g7f', '3c3d', '2g2f', '8c8d']));
  /** An engine for which everything is level, beside what proves a mate at some plies. */
  const settled = async (mateAt: Partial<Record<number, { score: Score; moves: string[] }>>) => {
    const asked: { ply: number; checks: boolean; isLook: boolean }[] = [];
    const ask: Ask = (question) => {
      const ply = SHOGI.findIndex(({ root }) => root.position === question.root.position);
      const { checks = false, plain, lines } = question;
      asked.push({ ply, checks, isLook: !checks && !plain && lines === 1 });
      const played = SHOGI[ply]!.played ?? '9g9f';
      const line = question.checks ? mateAt[ply] : { score: cpScore(0), moves: [played] };
      return Promise.resolve({
        depth: question.checks && line ? EXACT_DEPTH : 10,
        nodes: 1,
        milliseconds: 1,
        lines: line ? [line] : [],
      });
    };
    const found = await settleGame('shogi', SHOGI, EFFORT)(ask, () => undefined);
    return { asked, evaluations: found.evaluations() };
  };

  it('are asked for once a position, and no search is made where one is proved', async () => {
    const mate = { score: mateScore(5, 0), moves: ['5e5d'] };
    const { asked, evaluations } = await settled({ 2: mate });
    for (const { ply } of SHOGI)
      expect(asked.filter((one) => one.ply === ply && one.checks)).toHaveLength(1);
    const looks = (ply: number) => asked.filter((one) => one.ply === ply && one.isLook).length;
    expect([looks(0), looks(2), looks(4)]).toEqual([1, 0, 1]);
    expect(evaluations[2]).toMatchObject({
      depth: EXACT_DEPTH,
      lines: [mate],
      played: { score: cpScore(0) },
    });
    // and is taken back to the move before it
    expect(evaluations[1]!.lines[0]!.score).toEqual(mateScore(6, 0));
  });

  it('are nothing that chess is asked', async () => {
    const questions: Question[] = [];
    const { ask } = engine(() => ({}));
    await settle((question) => {
      questions.push(question);
      return ask(question);
    });
    expect(questions.some(({ checks }) => checks)).toBe(false);
  });
});
