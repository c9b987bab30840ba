import { describe, expect, it } from 'vitest';
import { GAME_KINDS } from '../game/ruleset';
import { chess } from '../chess/ruleset';
import { readFileSync } from 'node:fs';
import { cpScore, mateScore, type Score } from '../game/score';
import { emptyTree, mainLine, nodeOf, nodesInOrder, positionsAlong } from '../game/tree';
import { readGames, writeGame } from '../notation/formats';
import { isRead } from '../notation/reading';
import { rulesetOf } from '../rulesets';
import { shogi } from '../shogi/ruleset';
import { accuracyOf, LOSS_NOISE, moveAccuracy } from './accuracy';
import { annotated } from './annotate';
import { applySteps } from '../game/steps';
import type { GameRecord } from '../game/record';
import { CHANCE_SCALE, chanceOf, lossOf, wholeLoss } from './chance';
import { EXACT_DEPTH, type PositionEvaluation } from './evaluation';
import { allowedMate, missedMate, movesFrom, reviewGame, type MoveReview } from './review';
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
  it.each([
    [{ plies: 2, deepest: 3 }, 'only move'],
    [{ plies: 3, deepest: 4 }, 'good'],
    [{ plies: 6, deepest: 6 }, 'good'],
    [{ plies: null, deepest: 1 }, 'only move'],
    [{ plies: null, deepest: 2 }, 'good'],
    [{ plies: null, deepest: 4 }, 'good'],
    [{ plies: null, deepest: 5 }, 'very good'],
  ])('an only move that is seen at %j: %s', (seen, verdict) => {
    expect(verdictOf(0, 12, false, seen)).toBe(verdict);
    expect(verdictOf(0, 11, false, seen)).toBe('none');
    expect(verdictOf(7, 30, false, seen)).toBe('inaccuracy');
  });
  it('a forced move or recapture earns no sign', () => {
    expect(verdictOf(0, 60, true, { plies: null, deepest: 6 })).toBe('none');
  });
});

describe('accuracy', () => {
  const held = (loss: number) => ({ loss, isUnsettled: false });
  it('halves with each mistake, and says what it rests on', () => {
    expect(moveAccuracy(0)).toBe(100);
    expect(moveAccuracy(12)).toBe(50);
    expect(moveAccuracy(24)).toBe(25);
    expect(accuracyOf([held(0), held(12)])).toMatchObject({ value: 75, moves: 2, meanLoss: 6 });
    expect(accuracyOf([])).toEqual({ value: null, error: null, moves: 0, meanLoss: null });
  });
  it('errs by the spread of its moves and the noise of their searches', () => {
    expect(accuracyOf([held(6)]).error).toBeNull();
    // moves alike have no spread: what is left is noise, half of it where the accuracy is half
    const slope = (100 * Math.LN2) / 12;
    const error = (loss: number, isUnsettled: boolean, moves: number) =>
      accuracyOf(Array.from({ length: moves }, () => ({ loss, isUnsettled }))).error;
    expect(error(0, false, 9)).toBeCloseTo((slope * LOSS_NOISE.settled) / 3);
    expect(error(12, false, 4)).toBeCloseTo((slope * LOSS_NOISE.settled) / 4);
    expect(error(0, true, 4)).toBeCloseTo((slope * LOSS_NOISE.unsettled) / 2);
    // 100 and 50: a variance of 1250, and the noise of both
    const noise = (slope * LOSS_NOISE.settled) ** 2;
    expect(accuracyOf([held(0), held(12)]).error).toBeCloseTo(
      Math.sqrt((1250 + (noise + noise / 4) / 2) / 2),
    );
  });
});

describe('moves that a base knows', () => {
  const review = (ply: number) => ({ ply }) as MoveReview;
  const moves = [review(1), null, review(3), review(4)];
  it('are left out up to the departure, which counts itself', () => {
    expect(movesFrom(moves, 3)).toEqual([null, null, review(3), review(4)]);
    expect(movesFrom(moves, 1)).toEqual(moves);
    expect(movesFrom(moves, null)).toEqual([null, null, null, null]);
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
    answers: 1,
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
      answers: 1,
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
  it('counts the other moves that lose less than an inaccuracy against the best of those compared', () => {
    const points = (loss: number): Score =>
      cpScore(-CHANCE_SCALE.chess * Math.log((50 + loss) / (50 - loss)));
    const held = (losses: readonly number[], code = 'e2e4') => {
      const compared = losses.map((loss, index) => ({
        score: points(loss),
        moves: [index === 0 ? code : `other${index}`],
      }));
      const found = evaluations.with(0, { ...evaluations[0]!, compared });
      return reviewGame(chess, positions, moves, found).moves[0]!.othersHold;
    };
    // the first is the move played
    expect(held([0, 5.9, 6.1])).toBe(1);
    expect(held([0, 6.1, 7])).toBe(0);
    // it is not, and counts as another one
    expect(held([0, 5.9, 6.1], 'a2a3')).toBe(2);
    expect(held([])).toBe(0);
  });
  it('leaves out moves that were not asked about, and keeps the course', () => {
    const found = evaluations.with(5, { ...evaluations[5]!, isOutside: true });
    const outside = reviewGame(chess, positions, moves, found);
    expect(outside.moves[5]).toBeNull();
    expect(outside.course[5]).toEqual(review.course[5]);
    expect(outside.accuracy[1].moves).toBe(review.accuracy[1].moves - 1);
  });
  it('ends the course with the exact result', () => {
    expect(review.course.at(-1)).toEqual({ chance: 100, origin: { by: 'rules' } });
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
    expect(half.course.slice(2, -1).every((value) => value === null)).toBe(true);
  });
});

describe('walking into mate', () => {
  const codes = ['f2f3', 'e7e5', 'g2g4', 'd8h4'];
  const moves = codes.map((code) => chess.parseCode(code)!);
  const positions = positionsAlong(
    chess,
    chess.startText,
    moves.map((move) => ({ move })),
  );
  /** The third move, with the best and the one played scored as given. */
  const third = (best: PositionEvaluation['lines'][0], played: PositionEvaluation['lines'][0]) =>
    reviewGame(chess, positions, moves, [
      null,
      null,
      { depth: 9, lines: [best], played, answers: 2 },
      null,
      null,
    ]).moves[2]!;
  const mated = { score: mateScore(2, 1), moves: ['g2g4', 'd8h4'] };

  it('is marked however lost the game was', () => {
    const found = third({ score: cpScore(-2000), moves: ['b1c3'] }, mated);
    expect(found).toMatchObject({ verdict: 'none', isTurningPoint: false, walksIntoMate: true });
  });
  it('is not where nothing prevented it, or nobody mates, or one mates oneself', () => {
    const sooner = { score: mateScore(4, 1), moves: ['b1c3'] };
    expect(third(sooner, mated).walksIntoMate).toBe(false);
    const lost = { score: cpScore(-900), moves: ['g2g4'] };
    expect(third({ score: cpScore(0), moves: ['b1c3'] }, lost).walksIntoMate).toBe(false);
    const mating = { score: mateScore(3, 0), moves: ['g2g4'] };
    expect(third({ score: cpScore(0), moves: ['b1c3'] }, mating).walksIntoMate).toBe(false);
  });
  it('is told with its length, from the other side’s move on', () => {
    expect(allowedMate(third({ score: cpScore(0), moves: ['b1c3'] }, mated))).toBe(1);
    expect(allowedMate(third({ score: mateScore(4, 1), moves: ['b1c3'] }, mated))).toBe(null);
  });
  it('that was there and was not given is told with its length, where it is proved', () => {
    const missed = third({ score: mateScore(7, 0), moves: ['b1c3'] }, mated);
    expect(missedMate({ ...missed, depth: EXACT_DEPTH })).toBe(7);
    expect(missedMate(missed)).toBe(null);
  });
});

describe('losses', () => {
  it('are shown rounded down, so that what reads a threshold has reached it', () => {
    for (let loss = 0; loss < 40; loss += 0.037)
      for (const threshold of [6, 12, 24])
        expect(wholeLoss(loss) >= threshold).toBe(loss >= threshold);
    expect(wholeLoss(13.9)).toBe(13);
  });
  it('are never negative, and the same from either side', () => {
    expect(lossOf('chess', cpScore(0), cpScore(50), 0)).toBe(0);
    const white = lossOf('chess', cpScore(80), cpScore(-40), 0);
    expect(white).toBeGreaterThan(10);
    expect(lossOf('chess', cpScore(-80), cpScore(40), 1)).toBeCloseTo(white);
  });
});

describe('findings written into a game', () => {
  it('tell a mate that was delivered as one in nought', () => {
    const { moves, positions, evaluations } = shortMate();
    const tree = moves.reduce(
      (record, move, index) =>
        applySteps(record, [
          {
            type: 'insert',
            parent: index,
            index: 0,
            branch: [{ id: index + 1, parent: null, move }],
          },
        ]),
      {
        tree: emptyTree('chess', chess.startText),
        tags: [],
        result: '1-0',
        end: null,
      } as GameRecord,
    );
    const found = reviewGame(chess, positions, moves, evaluations);
    const written = annotated(tree, { findings: found, evaluations }, () => 'better', Math.random);
    const text = writeGame(written, 'pgn').replace(/\s+/g, ' ');
    expect(text).toContain('Qxf7# $7 {[%eval #0]}');
    expect(text).toContain('Nf6 $4 {[%eval #1,9]}');
    expect(mainLine(written.tree).at(-1)!.evaluation!.score).toEqual(mateScore(0, 0));
  });

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
        const lines = [{ score: cpScore(0), moves: [ruleset.code(first)] }];
        return { depth: 8, lines, played, answers: 2 };
      });
      const review = reviewGame(
        ruleset,
        positions,
        line.map(({ move }) => move),
        evaluations,
      );
      let draws = 0;
      const draw = (): number => (draws += 0.0137) % 1;
      const marked = annotated(record, { findings: review, evaluations }, () => 'better', draw);
      const flagged = mainLine(marked.tree).filter(({ symbols }) => symbols?.includes(4));
      expect(flagged.length).toBeGreaterThan(2);
      for (const node of line) {
        const after = nodeOf(marked.tree, node.id);
        for (const field of ['comment', 'symbols', 'spent', 'clock'] as const)
          if (node[field] !== undefined) expect(after[field]).toEqual(node[field]);
        expect(after.move).toBe(node.move);
      }
      expect([...nodesInOrder(marked.tree)].length).toBeGreaterThan(record.tree.nodes.size);
      const again = annotated(marked, { findings: review, evaluations }, () => 'better', draw);
      expect(again).toEqual(marked);
    },
  );
});

it('sweep settings survive as text', () => {
  for (const settings of [
    { depth: 12, lines: 3 },
    { nodes: 50_000, lines: 1 },
    { milliseconds: 500, lines: 8 },
    { average: { nodes: 1_000_000 } },
    { average: { milliseconds: 3000 } },
    { average: { nodes: 1000 }, moves: { side: 0 } },
    { average: { nodes: 1000 }, moves: { side: 1, from: 7, to: 7 } },
    { average: { nodes: 1000 }, moves: { from: 7 } },
    { average: { nodes: 1000 }, moves: { known: 12 } },
  ] as const)
    expect(readSettingsText(settingsText(settings))).toEqual(settings);
  for (const wrong of [
    'depth 12 nodes',
    'average depth 12',
    'average nodes',
    'average nodes 99',
    'average nodes 1000 side 2',
    'average nodes 1000 from 8 to 7',
    'average nodes 1000 from 0',
    'average nodes 1000 to',
    'average nodes 1000 up 3',
    'average nodes 1000 known 0',
  ])
    expect(() => readSettingsText(wrong)).toThrow();
});

it('a shogi game that ends in mate ends its course so', () => {
  const start = '4k4/9/4P4/9/9/9/9/9/9 b G2r2b3g4s4n4l17p 1';
  const mate = shogi.parseCode('G*5b')!;
  const positions = positionsAlong(shogi, start, [{ move: mate }]);
  const review = reviewGame(shogi, positions, [mate], [null, null]);
  expect(review.course).toEqual([null, { chance: 100, origin: { by: 'rules' } }]);
});
