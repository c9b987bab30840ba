import { describe, expect, it } from 'vitest';
import { GAME_KINDS } from '../game/ruleset';
import { chess } from '../chess/ruleset';
import { readFileSync } from 'node:fs';
import { cpScore, mateScore } from '../game/score';
import { mainLine, nodeOf, nodesInOrder, positionsAlong } from '../game/tree';
import { readGames } from '../notation/formats';
import { isRead } from '../notation/reading';
import { rulesetOf } from '../rulesets';
import { shogi } from '../shogi/ruleset';
import { accuracyOf, moveAccuracy } from './accuracy';
import { annotated } from './annotate';
import { chanceOf } from './chance';
import { reviewGame, type PositionEvaluation } from './review';
import { readSettingsText, settingsText } from './sweep-settings';
import { verdictOf } from './verdict';

describe('chance', () => {
  it('is even at nought, symmetric, grows with the score and is certain at a mate', () => {
    for (const kind of GAME_KINDS) {
      expect(chanceOf(kind, cpScore(0), 0)).toBe(50);
      let before = 0;
      for (let cp = -2000; cp <= 2000; cp += 50) {
        const chance = chanceOf(kind, cpScore(cp), 0);
        expect(chance).toBeGreaterThan(before);
        expect(chance + chanceOf(kind, cpScore(-cp), 0)).toBeCloseTo(100);
        expect(chance + chanceOf(kind, cpScore(cp), 1)).toBeCloseTo(100);
        before = chance;
      }
      expect(chanceOf(kind, mateScore(5, 0), 0)).toBe(100);
      expect(chanceOf(kind, mateScore(5, 0), 1)).toBe(0);
    }
  });
});

describe('verdicts', () => {
  it.each([
    [5.9, null, 'none'],
    [6, null, 'inaccuracy'],
    [12, null, 'mistake'],
    [24, null, 'blunder'],
    [0, 12, 'only move'],
    [0, 11.9, 'none'],
  ])('a loss of %d with a margin of %s: %s', (loss, margin, verdict) => {
    expect(verdictOf(loss, margin, false)).toBe(verdict);
  });
  it('a forced move or recapture earns no sign', () => {
    expect(verdictOf(0, 60, true)).toBe('none');
  });
});

describe('accuracy', () => {
  it('halves with each mistake, and says what it rests on', () => {
    expect(moveAccuracy(0)).toBe(100);
    expect(moveAccuracy(12)).toBe(50);
    expect(moveAccuracy(24)).toBe(25);
    expect(accuracyOf([0, 12])).toEqual({ value: 75, moves: 2, meanLoss: 6 });
    expect(accuracyOf([])).toEqual({ value: null, moves: 0, meanLoss: null });
  });
});

/** The short mate in four, with evaluations as a search might give them. */
function shortMate() {
  const moves = ['e2e4', 'e7e5', 'd1h5', 'b8c6', 'f1c4', 'g8f6', 'h5f7'].map((code) =>
    chess.parseCode(code)!,
  );
  const positions = positionsAlong(
    chess,
    chess.startText,
    moves.map((move) => ({ move })),
  );
  const evaluation = (
    cp: number,
    best: string,
    second: number,
    more: Partial<PositionEvaluation> = {},
  ) => ({
    depth: 9,
    lines: [
      { score: cpScore(cp), moves: [best] },
      { score: cpScore(second), moves: ['a2a3'] },
    ],
    ...more,
  });
  const evaluations: (PositionEvaluation | null)[] = [
    evaluation(20, 'e2e4', 10),
    evaluation(20, 'e7e5', 40),
    evaluation(30, 'g1f3', 20, { played: { score: cpScore(-30), moves: ['d1h5'] } }),
    evaluation(-30, 'b8c6', 300),
    evaluation(-20, 'h5f3', -25, { played: { score: cpScore(-40), moves: ['f1c4'] } }),
    evaluation(-40, 'g7g6', 500, { played: { score: mateScore(1, 0), moves: ['g8f6', 'h5f7'] } }),
    {
      depth: 9,
      lines: [
        { score: mateScore(1, 0), moves: ['h5f7'] },
        { score: cpScore(0), moves: ['h5f3'] },
      ],
    },
    null,
  ];
  return { moves, positions, evaluations };
}

describe('the review of a game', () => {
  const { moves, positions, evaluations } = shortMate();
  const review = reviewGame(chess, positions, moves, evaluations);
  it('prices each move against the best at equal depth', () => {
    const blunder = review.moves[5]!;
    expect(blunder.loss).toBeCloseTo(chanceOf('chess', cpScore(-40), 1));
    expect(blunder).toMatchObject({
      verdict: 'blunder',
      isTurningPoint: true,
      rank: null,
      linesKnown: 2,
      betterLine: ['g7g6'],
      refutation: ['h5f7'],
      side: 1,
    });
    expect(review.moves[0]).toMatchObject({ loss: 0, verdict: 'none', rank: 1, betterLine: [] });
    expect(review.moves[3]).toMatchObject({ verdict: 'only move' });
  });
  it('ends the course with the exact result', () => {
    expect(review.course.at(-1)).toBe(100);
    expect(review.course).toHaveLength(8);
  });
  it('rates each side over its own moves', () => {
    expect(review.accuracy[0].moves).toBe(4);
    expect(review.accuracy[1].moves).toBe(3);
    expect(review.accuracy[0].value!).toBeGreaterThan(review.accuracy[1].value!);
  });
  it('says nothing of what has not been evaluated yet', () => {
    const half = reviewGame(chess, positions, moves, evaluations.slice(0, 2));
    expect(half.moves.slice(2).every((found) => found === null)).toBe(true);
    expect(half.course.slice(2, -1).every((chance) => chance === null)).toBe(true);
  });
});

describe('findings written into a game', () => {
  it.each(['tuesday-blitz.pgn', 'lantern-circle-ladder.kifu'])(
    '%s: replace nothing and stay legal',
    (file) => {
      const text = readFileSync(`demo/games/${file}`, 'utf8');
      const format = file.endsWith('pgn') ? 'pgn' : 'kif';
      const { record } = [...readGames(text, format)].filter(isRead)[0]!;
      const ruleset = rulesetOf(record.tree.kind);
      const line = mainLine(record.tree);
      const positions = positionsAlong(ruleset, record.tree.start, line);
      // every tenth move loses a rook's worth against the first legal move
      const evaluations = positions.map((position, ply): PositionEvaluation | null => {
        const [first] = ruleset.moves(position);
        if (!first || ply === positions.length - 1) return null;
        const sign = ruleset.side(position) === 0 ? 1 : -1;
        const played = {
          score: cpScore(ply % 10 === 5 ? -900 * sign : 0),
          moves: [ruleset.code(line[ply]!.move)],
        };
        return { depth: 8, lines: [{ score: cpScore(0), moves: [ruleset.code(first)] }], played };
      });
      const review = reviewGame(
        ruleset,
        positions,
        line.map(({ move }) => move),
        evaluations,
      );
      let draws = 0;
      const draw = (): number => (draws += 0.0137) % 1;
      const marked = annotated(record, review, evaluations, () => 'better', draw);
      const flagged = mainLine(marked.tree).filter(({ symbols }) => symbols?.includes(4));
      expect(flagged.length).toBeGreaterThan(2);
      for (const node of line) {
        const after = nodeOf(marked.tree, node.id);
        for (const field of ['comment', 'symbols', 'spent', 'clock'] as const)
          if (node[field] !== undefined) expect(after[field]).toEqual(node[field]);
        expect(after.move).toBe(node.move);
      }
      expect([...nodesInOrder(marked.tree)].length).toBeGreaterThan(record.tree.nodes.size);
      const again = annotated(marked, review, evaluations, () => 'better', draw);
      expect(again).toEqual(marked);
    },
  );
});

it('sweep settings survive as text', () => {
  for (const settings of [
    { depth: 12, lines: 3 },
    { nodes: 50_000, lines: 1 },
    { milliseconds: 500, lines: 8 },
  ])
    expect(readSettingsText(settingsText(settings))).toEqual(settings);
  expect(() => readSettingsText('depth 12 nodes')).toThrow();
});

it('a shogi game that ends in mate ends its course so', () => {
  const start = '4k4/9/4P4/9/9/9/9/9/9 b G2r2b3g4s4n4l17p 1';
  const mate = shogi.parseCode('G*5b')!;
  const positions = positionsAlong(shogi, start, [{ move: mate }]);
  const review = reviewGame(shogi, positions, [mate], [null, null]);
  expect(review.course).toEqual([null, 100]);
});
