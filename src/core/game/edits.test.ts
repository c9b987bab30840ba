import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { GAME_KINDS } from './ruleset';
import { EVERYTHING, gameOf } from '../../../tests/support/games';
import { rulesetOf } from '../rulesets';
import {
  clearMarks,
  deleteFrom,
  deleteVariation,
  demote,
  insertLine,
  makeMainLine,
  promote,
  replaceNext,
  toggleMark,
  toggleCause,
  toggleSymbol,
  variationStart,
  writeWords,
  type Edit,
} from './edits';
import type { GameRecord } from './record';
import { applyInvertibly, applySteps } from './steps';
import { emptyTree, mainLine, nodeOf, nodesInOrder, ROOT, type NodeId } from './tree';

const ruleset = rulesetOf('chess');
const counter = () => {
  let next = 100;
  return () => next++;
};

/** A game from lines of UCI moves, each entered from the start. */
function gameWith(...lines: string[]): { record: GameRecord; ends: NodeId[] } {
  const newId = counter();
  let record: GameRecord = {
    tree: emptyTree('chess', ruleset.startText),
    tags: [],
    result: '*',
    end: null,
  };
  const ends: NodeId[] = [];
  for (const line of lines) {
    const moves = line.split(' ').map((code) => ruleset.parseCode(code)!);
    const { steps, node } = insertLine(record.tree, ROOT, moves, newId);
    record = applySteps(record, steps);
    ends.push(node);
  }
  return { record, ends };
}

const codes = ({ tree }: GameRecord): string =>
  mainLine(tree)
    .map(({ move }) => ruleset.code(move))
    .join(' ');
const after = (record: GameRecord, edit: Edit | null): GameRecord =>
  applySteps(record, edit?.steps ?? []);

describe('a line that is entered', () => {
  it('follows the moves that are there and becomes a variation where it leaves them', () => {
    const { record } = gameWith('e2e4 e7e5 g1f3', 'e2e4 c7c5', 'e2e4 e7e5 g1f3 b8c6');
    expect(codes(record)).toBe('e2e4 e7e5 g1f3 b8c6');
    expect(record.tree.nodes.size).toBe(6);
  });

  it('takes the place of the next move when asked, and the variations there stay', () => {
    const { record } = gameWith('e2e4 e7e5 g1f3', 'd2d4');
    const move = ruleset.parseCode('c2c4')!;
    const changed = after(record, replaceNext(record.tree, ROOT, move, counter()));
    expect(codes(changed)).toBe('c2c4');
    expect(nodeOf(changed.tree, ROOT).children).toHaveLength(2);
    // a move that is a variation already takes its place at the head
    const known = replaceNext(record.tree, ROOT, ruleset.parseCode('d2d4')!, counter());
    expect(codes(after(record, known))).toBe('d2d4');
    expect(after(record, known).tree.nodes.size).toBe(2);
  });
});

describe('variations', () => {
  const { record, ends } = gameWith('e2e4 e7e5', 'd2d4 d7d5', 'c2c4 e7e5', 'd2d4 g8f6 c2c4');
  const [main, , third, deep] = ends as [NodeId, NodeId, NodeId, NodeId];

  it('go up and down by one place', () => {
    expect(variationStart(record.tree, main)).toBeNull();
    expect(promote(record.tree, main)).toBeNull();
    const up = after(record, promote(record.tree, third));
    expect(nodeOf(up.tree, ROOT).children.indexOf(variationStart(record.tree, third)!.id)).toBe(1);
    expect(codes(after(record, demote(record.tree, main)))).toBe('d2d4 d7d5');
    expect(demote(record.tree, third)).toBeNull();
  });

  it('become the main line at every fork above', () => {
    expect(codes(after(record, makeMainLine(record.tree, deep)))).toBe('d2d4 g8f6 c2c4');
    expect(makeMainLine(record.tree, main)).toBeNull();
  });

  it('go as a whole, or from a move on', () => {
    const whole = deleteVariation(record.tree, deep)!;
    expect(after(record, whole).tree.nodes.size).toBe(record.tree.nodes.size - 2);
    expect(deleteVariation(record.tree, main)).toBeNull();
    expect(deleteFrom(record.tree, ROOT)).toBeNull();
    expect(deleteFrom(record.tree, deep)!.node).toBe(nodeOf(record.tree, deep).parent);
  });
});

describe('words, symbols and marks', () => {
  const { record, ends } = gameWith('e2e4 e7e5');
  const node = ends[0]!;

  it('blank words take the comment away; the same words change nothing', () => {
    const written = after(record, writeWords(record.tree, node, 'comment', ' a plan '));
    expect(nodeOf(written.tree, node).comment).toBe('a plan');
    expect(writeWords(written.tree, node, 'comment', 'a plan').steps).toEqual([]);
    const blank = after(written, writeWords(written.tree, node, 'comment', '  '));
    expect(nodeOf(blank.tree, node)).not.toHaveProperty('comment');
  });

  it('a symbol replaces the one that says something else of the same', () => {
    let game = after(record, toggleSymbol(record.tree, node, 1));
    game = after(game, toggleSymbol(game.tree, node, 16));
    game = after(game, toggleSymbol(game.tree, node, 40));
    game = after(game, toggleSymbol(game.tree, node, 4));
    expect(nodeOf(game.tree, node).symbols).toEqual([4, 16, 40]);
    for (const nag of [4, 16, 40]) game = after(game, toggleSymbol(game.tree, node, nag));
    expect(nodeOf(game.tree, node)).not.toHaveProperty('symbols');
  });

  it('an error has one cause, which is taken back by saying it again', () => {
    let game = after(record, toggleCause(record.tree, node, 'hasty'));
    game = after(game, toggleCause(game.tree, node, 'feared'));
    expect(nodeOf(game.tree, node).cause).toBe('feared');
    game = after(game, toggleCause(game.tree, node, 'feared'));
    expect(nodeOf(game.tree, node)).not.toHaveProperty('cause');
  });

  it('a mark drawn again in its colour goes, in another it changes', () => {
    const green = { colour: 'green', square: 3, to: 19 } as const;
    const red = { ...green, colour: 'red' } as const;
    let game = after(record, toggleMark(record.tree, node, green));
    game = after(game, toggleMark(game.tree, node, red));
    game = after(game, toggleMark(game.tree, node, { colour: 'blue', square: 3 }));
    expect(nodeOf(game.tree, node).marks).toEqual([red, { colour: 'blue', square: 3 }]);
    expect(nodeOf(after(game, toggleMark(game.tree, node, red)).tree, node).marks).toHaveLength(1);
    expect(nodeOf(after(game, clearMarks(game.tree, node)).tree, node)).not.toHaveProperty('marks');
    expect(clearMarks(record.tree, node)).toBeNull();
  });
});

describe.each(GAME_KINDS)('every edit of a %s game', (kind) => {
  it('can be taken back exactly, and looks at a node that is there', () => {
    fc.assert(
      fc.property(gameOf(kind, EVERYTHING, []), fc.nat(), fc.nat(), (game, at, which) => {
        const nodes = [...nodesInOrder(game.tree)];
        const { id } = nodes[at % nodes.length]!;
        const { tree } = game;
        const edits = [
          promote(tree, id),
          demote(tree, id),
          makeMainLine(tree, id),
          deleteFrom(tree, id),
          deleteVariation(tree, id),
          toggleSymbol(tree, id, 1 + (which % 20)),
          writeWords(tree, id, 'comment', 'words'),
        ];
        const edit = edits[which % edits.length];
        fc.pre(!!edit);
        const changed = applySteps(game, edit!.steps);
        expect(changed.tree.nodes.has(edit!.node)).toBe(true);
        expect(applySteps(changed, applyInvertibly(game, edit!.steps).inverse)).toEqual(game);
      }),
      { numRuns: 200 },
    );
  });
});
