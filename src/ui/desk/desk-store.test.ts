import { describe, expect, it } from 'vitest';
import { insertLine, toggleSymbol, writeWords } from '@/core/game/edits';
import { applySteps, type Step } from '@/core/game/steps';
import { emptyTree, ROOT, type NodeId } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';
import { newIdFor } from '../document';
import { createDeskStore } from './desk-store';
import { GameView } from '../game-view';

const chess = rulesetOf('chess');

/** A Desk with 1. e4 e5, saved as version 1. */
function desk() {
  const bare = {
    tree: emptyTree('chess', chess.startText),
    tags: [],
    result: '*',
    end: null,
  } as const;
  const moves = ['e2e4', 'e7e5'].map((code) => chess.parseCode(code)!);
  const { steps, node } = insertLine(bare.tree, ROOT, moves, newIdFor(bare.tree));
  const view = new GameView(applySteps(bare, steps));
  const store = createDeskStore(view, { gameId: 1, version: 1, right: 'own' }, ROOT, false);
  const at = () => store.getState();
  const play = (from: NodeId, ...codes: string[]): void => {
    const { tree } = at().view.record;
    const line = codes.map((code) => chess.parseCode(code)!);
    at().edit(insertLine(tree, from, line, newIdFor(tree)));
  };
  const say = (node: NodeId, words: string): void =>
    at().edit(writeWords(at().view.record.tree, node, 'comment', words));
  return { at, play, say, view, last: node };
}

const comment = (node: NodeId, value: string): Step => ({
  type: 'annotate',
  node,
  field: 'comment',
  value,
});

describe('an edit on the Desk', () => {
  it('is shown, waits to be saved, is taken back and made again', () => {
    const { at, play, last, view } = desk();
    play(last, 'g1f3', 'b8c6');
    expect(at().view.line).toHaveLength(4);
    expect(at().view.plyOf(at().node)).toBe(4);
    expect(at().unsaved).toHaveLength(1);
    at().undo();
    expect(at().view.record).toEqual(view.record);
    expect(at().node).toBe(ROOT);
    expect(at().unsaved).toHaveLength(2);
    at().redo();
    expect(at().view.line).toHaveLength(4);
    at().undo();
    at().undo();
    expect(at().view.record).toEqual(view.record);
  });

  it('after something was taken back leaves nothing to make again', () => {
    const { at, say, last } = desk();
    say(last, 'first');
    at().undo();
    say(last, 'second');
    at().redo();
    expect(at().view.node(last).comment).toBe('second');
    expect(at().undone).toEqual([]);
  });

  it('that changes nothing only goes there', () => {
    const { at, play } = desk();
    play(ROOT, 'e2e4');
    expect(at().view.plyOf(at().node)).toBe(1);
    expect(at().done).toEqual([]);
    expect(at().unsaved).toEqual([]);
  });

  it('keeps what the view before had worked out of moves that stayed', () => {
    const { at, say, last, view } = desk();
    const { moves, times } = view;
    say(last, 'words');
    expect(at().view.moves).toBe(moves);
    expect(at().view.times).toBe(times);
    expect(at().view.positionOf(last)).toBe(view.positionOf(last));
  });

  it('that takes the move on the board away is looked at from the move before', () => {
    const { at, last } = desk();
    at().goTo(last);
    const { parent } = at().view.node(last);
    at().edit({ steps: [{ type: 'remove', node: last }], node: parent! });
    expect(at().node).toBe(parent);
    at().undo();
    expect(at().node).toBe(last);
  });
});

describe('what others do to the game meanwhile', () => {
  it('is taken over at once where nothing is unsaved', () => {
    const { at, last } = desk();
    at().changedElsewhere({ version: 2, steps: [comment(last, 'theirs')] });
    expect(at().view.node(last).comment).toBe('theirs');
    expect(at()).toMatchObject({ version: 2, conflict: null, unsaved: [] });
  });

  it('is ignored where it is known already', () => {
    const { at, last } = desk();
    at().changedElsewhere({ version: 1, steps: [comment(last, 'echo')] });
    expect(at().view.node(last)).not.toHaveProperty('comment');
  });

  it('waits for a decision where it meets unsaved work, which is kept on top', () => {
    const { at, say, play, last } = desk();
    say(last, 'mine');
    play(last, 'g1f3');
    at().changedElsewhere({ version: 3, steps: [comment(last, 'theirs'), comment(ROOT, 'too')] });
    expect(at().conflict).not.toBeNull();
    expect(at().view.node(last).comment).toBe('mine');
    at().settle('merge');
    expect(at().view.node(last).comment).toBe('mine');
    expect(at().view.node(ROOT).comment).toBe('too');
    expect(at().view.line).toHaveLength(3);
    expect(at()).toMatchObject({ version: 3, conflict: null });
    expect(at().unsaved).toHaveLength(2);
  });

  it('is carried together with unsaved work where nothing clashes, and undo goes on', () => {
    const { at, say, play, last } = desk();
    say(ROOT, 'mine');
    at().saved(1, 2);
    play(last, 'g1f3');
    at().changedElsewhere({ version: 3, steps: [comment(last, 'theirs')] });
    expect(at()).toMatchObject({ version: 3, conflict: null });
    expect(at().view.node(last).comment).toBe('theirs');
    expect(at().view.line).toHaveLength(3);
    expect(at().unsaved).toHaveLength(1);
    at().undo();
    expect(at().view.line).toHaveLength(2);
    at().undo();
    expect(at().view.node(ROOT)).not.toHaveProperty('comment');
    expect(at().view.node(last).comment).toBe('theirs');
    at().redo();
    at().redo();
    expect(at().view.line).toHaveLength(3);
    expect(at().view.node(ROOT).comment).toBe('mine');
  });

  it('is never taken back by one’s own undo', () => {
    const { at, say, last } = desk();
    say(ROOT, 'earlier');
    say(last, 'mine');
    at().saved(2, 3);
    at().changedElsewhere({ version: 4, steps: [comment(last, 'theirs')] });
    at().undo();
    expect(at().view.node(last).comment).toBe('theirs');
    expect(at().view.node(ROOT).comment).toBe('earlier');
    expect(at().done).toEqual([]);
  });

  it('that adds the same move is asked about', () => {
    const { at, play, last } = desk();
    play(last, 'g1f3');
    const branch = [{ id: 77, parent: null, move: chess.parseCode('g1f3')! }] as const;
    at().changedElsewhere({
      version: 2,
      steps: [{ type: 'insert', parent: last, index: 0, branch }],
    });
    expect(at().conflict).not.toBeNull();
  });

  it('that took away where one was writing is asked about', () => {
    const { at, say, last } = desk();
    say(last, 'mine');
    at().changedElsewhere({ version: 2, steps: [{ type: 'remove', node: last }] });
    expect(at().conflict).not.toBeNull();
    expect(at().view.node(last).comment).toBe('mine');
  });

  it('replaces unsaved work where that is what was decided', () => {
    const { at, say, last } = desk();
    say(last, 'mine');
    at().changedElsewhere({ version: 2, steps: [comment(last, 'theirs')] });
    at().settle('drop');
    expect(at().view.node(last).comment).toBe('theirs');
    expect(at().unsaved).toEqual([]);
  });

  it('is told from one’s own saved work, however far that has come', () => {
    const { at, say, last } = desk();
    say(last, 'one');
    at().edit(toggleSymbol(at().view.record.tree, last, 1));
    at().saved(1, 2);
    expect(at()).toMatchObject({ version: 2 });
    expect(at().unsaved).toHaveLength(1);
    at().changedElsewhere({ version: 3, steps: [comment(ROOT, 'theirs')] });
    expect(at().view.node(last)).toMatchObject({ comment: 'one', symbols: [1] });
    expect(at().view.node(ROOT).comment).toBe('theirs');
  });

  it('that took the move on the board away leaves one that is there', () => {
    const { at, last } = desk();
    at().goTo(last);
    at().changedElsewhere({ version: 2, steps: [{ type: 'remove', node: last }] });
    expect(at().view.has(at().node)).toBe(true);
    expect(at().view.plyOf(at().node)).toBe(1);
  });
});

describe('what the server refuses', () => {
  it('can be taken back, to the game as it is stored', () => {
    const { at, say, play, last } = desk();
    say(last, 'stored');
    at().saved(1, 2);
    play(last, 'g1f3');
    at().refuse('nodes');
    expect(at().refused).toBe('nodes');
    expect(at().view.line).toHaveLength(3);
    at().takeBackUnsaved();
    expect(at()).toMatchObject({ refused: null, unsaved: [], version: 2 });
    expect(at().view.line).toHaveLength(2);
    expect(at().view.node(last).comment).toBe('stored');
  });
});

describe('candidates', () => {
  it('are pinned where they can be played, four at most, and taken out again', () => {
    const { at } = desk();
    for (const code of ['a', 'b', 'c', 'd', 'e']) at().pin('here', code);
    expect(at().pinned).toEqual({ place: 'here', codes: ['b', 'c', 'd', 'e'] });
    at().pin('here', 'c');
    expect(at().pinned!.codes).toEqual(['b', 'd', 'e']);
    at().pin('elsewhere', 'a');
    expect(at().pinned).toEqual({ place: 'elsewhere', codes: ['a'] });
  });
});
