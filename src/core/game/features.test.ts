import { describe, expect, it } from 'vitest';
import { rulesetOf } from '../rulesets';
import { featureTable } from './features';
import type { GameKind } from './ruleset';

const at = (kind: GameKind, text: string) => {
  const ruleset = rulesetOf(kind);
  const features = ruleset.features(ruleset.start(text));
  return Object.fromEntries(features.map(({ name, values }) => [name, values]));
};

describe('the balance of material', () => {
  it.each([
    ['chess', rulesetOf('chess').startText, {}],
    ['chess', 'rnbqkbn1/pppppppp/8/8/8/8/PPPPPP2/RNBQKBNR w KQq - 0 1', { R: 1, P: -2 }],
    ['chess', '4k3/8/8/8/8/8/8/QQ2K3 w - - 0 1', { Q: 2 }],
    ['shogi', rulesetOf('shogi').startText, {}],
    // promoted or in hand, a piece counts as what it was
    ['shogi', '4k4/9/9/9/9/9/9/9/4K4 b R2Pb 1', { R: 1, B: -1, P: 2 }],
    ['shogi', '4k4/1+B7/9/9/9/9/9/9/4K2+s1 b g 1', { B: 1, G: -1, S: -1 }],
  ] as const)('%s, %s', (kind, position, expected) => {
    const ruleset = rulesetOf(kind);
    const balance = ruleset.materialBalance(ruleset.start(position));
    expect(Object.fromEntries(balance.map(({ piece, count }) => [piece, count]))).toEqual(expected);
  });
});

describe('the structure of a chess position', () => {
  it('counts material, the bishop pair and pieces that have come out', () => {
    expect(at('chess', rulesetOf('chess').startText)).toMatchObject({
      material: [39, 39],
      bishopPair: [1, 1],
      developed: [0, 0],
      passedPawns: [0, 0],
      shelter: [3, 3],
      mobility: [4, 4],
    });
    const bishops = at('chess', '4k3/8/3n4/8/8/2B5/2B5/4K3 w - - 0 1');
    expect(bishops).toMatchObject({ bishopPair: [1, 0], material: [6, 3], developed: [2, 1] });
  });

  it('knows passed, isolated, doubled and backward pawns', () => {
    // White: passed and isolated a5, doubled c-pawns; Black: backward d6 before White's e4 and c4
    const found = at('chess', '4k3/8/3p4/P1p1p3/2P1P3/2P5/8/4K3 w - - 0 1');
    expect(found).toMatchObject({
      passedPawns: [1, 0],
      isolatedPawns: [4, 0],
      doubledPawns: [1, 0],
      backwardPawns: [0, 1],
    });
  });

  it.each([
    // one that stands beside it, or has gone past, does not stop it
    ['4k3/8/8/3pP3/8/8/8/4K3 w - - 0 1', [1, 1]],
    ['4k3/8/8/4P3/3p4/8/8/4K3 w - - 0 1', [1, 1]],
    ['4k3/8/3p4/4P3/8/8/8/4K3 w - - 0 1', [0, 0]],
    ['4k3/8/4p3/4P3/8/8/8/4K3 w - - 0 1', [0, 0]],
    ['4k3/8/2p5/4P3/8/8/8/4K3 w - - 0 1', [1, 1]],
  ])('knows which pawns are passed: %s', (text, passedPawns) => {
    expect(at('chess', text)).toMatchObject({ passedPawns });
  });

  it('knows rooks on open files and outposts that no pawn can drive away', () => {
    const found = at('chess', '3rk3/pp3ppp/8/3N4/4P3/8/PP3PPP/3RK3 w - - 0 1');
    expect(found).toMatchObject({ rooksOnOpenFiles: [1, 1], outposts: [1, 0] });
    const driven = at('chess', '3rk3/ppp2ppp/8/3N4/4P3/8/PP3PPP/3RK3 w - - 0 1');
    expect(driven).toMatchObject({ outposts: [0, 0] });
  });
});

describe('the structure of a shogi position', () => {
  it('counts points, hands, promoted pieces and how far the kings have come', () => {
    expect(at('shogi', rulesetOf('shogi').startText)).toMatchObject({
      points: [27, 27],
      hand: ['–', '–'],
      castle: ['none', 'none'],
      kingAdvance: [0, 0],
    });
    const late = at('shogi', '4k4/9/3+R1K3/9/9/9/9/9/9 b BG2Pr 101');
    expect(late).toMatchObject({ hand: ['B G 2P', 'R'], promoted: [1, 0], kingAdvance: [6, 0] });
    expect(late.attackers).toEqual([1, 0]);
    expect(late.entering).toEqual([13, 5]);
  });

  it('knows castles, for either side', () => {
    const yagura = '9/9/9/9/9/9/2SG5/1KG6/9';
    expect(at('shogi', `${yagura} b - 1`).castle).toEqual(['yagura', 'none']);
    expect(at('shogi', '9/6gk1/5gs2/9/9/9/9/7K1/9 w - 1').castle).toEqual(['none', 'yagura']);
    expect(at('shogi', '4k4/9/9/9/9/9/9/6SK1/5G3 b - 1').castle).toEqual(['mino', 'none']);
    expect(at('shogi', '4k4/9/9/9/9/9/9/LS7/K8 b - 1').castle).toEqual(['anaguma', 'none']);
  });
});

describe('positions side by side', () => {
  it('are told by what some of them have otherwise than the first', () => {
    const chess = rulesetOf('chess');
    const start = chess.start();
    const after = (code: string) => chess.play(start, chess.parseCode(code)!);
    const features = [start, after('g1f3'), after('a2a3')].map((at) => chess.features(at));
    const rows = featureTable(features);
    const developed = [
      [0, 0],
      [1, 0],
      [0, 0],
    ];
    expect(rows).toContainEqual({ name: 'developed', values: developed });
    expect(rows.map(({ name }) => name)).not.toContain('material');
    expect(featureTable([])).toEqual([]);
    expect(featureTable([features[0]!, features[0]!])).toEqual([]);
  });
});
