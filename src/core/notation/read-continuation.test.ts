import type { Position } from '../game/ruleset';
import { describe, expect, it } from 'vitest';
import { insertTree } from '../game/edits';
import { applySteps } from '../game/steps';
import { emptyTree, mainLine, nodesInOrder, ROOT } from '../game/tree';
import { rulesetOf } from '../rulesets';
import { readGames, writeGame } from './formats';
import { readContinuation } from './read-continuation';
import { isRead } from './reading';

const chess = rulesetOf('chess');
const shogi = rulesetOf('shogi');
const after = (kind: 'chess' | 'shogi', ...codes: string[]): Position => {
  const ruleset = rulesetOf(kind);
  return codes.reduce(
    (position, code) => ruleset.play(position, ruleset.parseCode(code)!),
    ruleset.start(),
  );
};

describe('moves that go on from a position', () => {
  it('have variations, words and symbols', () => {
    const tree = readContinuation(
      'chess',
      after('chess', 'e2e4'),
      '1... c5! {sharp} (1... e5) 2. Nf3',
    )!;
    expect(mainLine(tree).map(({ move }) => chess.code(move))).toEqual(['c7c5', 'g1f3']);
    expect(mainLine(tree)[0]).toMatchObject({ comment: 'sharp', symbols: [1] });
    expect(tree.nodes.size).toBe(4);
  });
  it('are read in shogi as KI2 has them', () => {
    const tree = readContinuation('shogi', after('shogi', '7g7f'), '△３四歩\n*普通の手\n▲２六歩')!;
    expect(mainLine(tree).map(({ move }) => shogi.code(move))).toEqual(['3c3d', '2g2f']);
    expect(mainLine(tree)[0]!.comment).toBe('普通の手');
  });
  it.each([
    ['chess', 'hello'],
    ['chess', ''],
    ['chess', '1. Ke4'],
    ['chess', '[White "x"]\n\n1... e5'],
    ['chess', '1... e5 * 1. e4'],
    ['shogi', '手合割：平手\n▲７六歩'],
    ['shogi', '▲５五歩'],
  ] as const)('are none: %s, %j', (kind, text) => {
    expect(
      readContinuation(kind, after(kind, kind === 'chess' ? 'e2e4' : '7g7f'), text),
    ).toBeNull();
  });
});

describe('a tree put into the sheet', () => {
  const [reading] = [...readGames('1. e4 {mine} e5 2. Nf3 *', 'pgn')];
  const record = reading && isRead(reading) ? reading.record : null;
  const newId = (): (() => number) => {
    let next = 1000;
    return () => next++;
  };

  it('goes along what is there, adds the rest, and never replaces words', () => {
    const other = readContinuation(
      'chess',
      chess.start(),
      '1. e4 {theirs} e5 $2 (1... c5 2. Nf3) 2. Nc3 {new}',
    )!;
    const { steps } = insertTree(record!.tree, ROOT, other, newId());
    const changed = applySteps(record!, steps);
    const text = writeGame(changed, 'pgn').replace(/\s+/g, ' ');
    expect(text).toContain(
      '1. e4 {mine [%char A]theirs} 1... e5 $2 (1... c5 2. Nf3) 2. Nf3 (2. Nc3 {new}) *',
    );
  });
  it('into an empty sheet is that tree', () => {
    const other = readContinuation('chess', chess.start(), '1. e4 e5 (1... c5) (1... e6) 2. Nf3')!;
    const empty = { ...record!, tree: emptyTree('chess', chess.startText) };
    const { steps, node } = insertTree(empty.tree, ROOT, other, newId());
    const changed = applySteps(empty, steps);
    expect([...nodesInOrder(changed.tree)].map(({ move }) => move)).toEqual(
      [...nodesInOrder(other)].map(({ move }) => move),
    );
    expect(changed.tree.nodes.has(node)).toBe(true);
  });
});
