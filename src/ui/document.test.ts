import { describe, expect, it } from 'vitest';
import { mainLineOf } from '../../tests/support/lines';
import { deleteFrom, insertLine, writeWords } from '@/core/game/edits';
import { GAME_KINDS, type GameKind } from '@/core/game/ruleset';
import { ROOT } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';
import { documentOf, edited, newIdFor, redone, seen, undone, type Document } from './document';
import { begunAnew, enter, enteredIn, openDraft } from './entry/entered';
import { GameView } from './game-view';

const LINES: Record<GameKind, string[]> = {
  chess: ['e2e4', 'e7e5', 'g1f3'],
  shogi: ['7g7f', '3c3d', '2g2f'],
};

describe.each(GAME_KINDS)('a game of %s as it is edited', (kind) => {
  const { parseCode } = rulesetOf(kind);
  const record = mainLineOf(kind, LINES[kind].slice(0, 2));
  const opened = documentOf(new GameView(record), 2);
  const third = parseCode(LINES[kind][2]!)!;
  const codes = ({ view }: Document): readonly string[] => view.codes;

  it('opens where it was asked to, or at the start', () => {
    expect(opened.node).toBe(2);
    expect(documentOf(opened.view, 77).node).toBe(ROOT);
    expect(undone(opened)).toBeNull();
    expect(redone(opened)).toBeNull();
  });

  it('goes back and forth over what was done, with the place that was looked at', () => {
    const { tree } = record;
    const longer = edited(opened, insertLine(tree, 2, [third], newIdFor(tree))).document;
    const last = longer.node;
    const worded = edited(longer, writeWords(longer.view.record.tree, 1, 'comment', 'hm')).document;
    const back = undone(undone(worded)!.document)!;
    expect(back.document.view.record).toEqual(record);
    expect(back.document.node).toBe(2);
    expect(back.steps).toEqual([{ type: 'remove', node: last }]);
    const again = redone(back.document)!.document;
    expect(codes(again)).toEqual(LINES[kind]);
    expect(again.node).toBe(last);
    expect(redone(redone(back.document)!.document)!.document.view.record).toEqual(
      worded.view.record,
    );
    // something else done in between can't be followed by what was taken back
    const other = edited(back.document, writeWords(tree, 2, 'comment', 'other')).document;
    expect(redone(other)).toBeNull();
    expect(undone(other)!.document.view.record).toEqual(record);
  });

  it('is looked at above what is gone', () => {
    const gone = edited(opened, deleteFrom(record.tree, 1)!).document;
    expect(seen(opened.view, gone.view.record, 2).node).toBe(ROOT);
    expect(seen(opened.view, record, 2).node).toBe(2);
  });
});

describe.each(GAME_KINDS)('a game of %s that is entered', (kind) => {
  const { parseCode, startText } = rulesetOf(kind);
  const moves = LINES[kind].map((code, index) => ({
    move: parseCode(code)!,
    spent: index === 1 ? 7000 : null,
  }));

  it('is taken up with its times, and each move can still be taken back', () => {
    const draft = openDraft(kind, { start: startText, moves });
    expect(enteredIn(draft)).toEqual(moves);
    const back = undone(draft)!.document;
    expect(enteredIn(back)).toEqual(moves.slice(0, 2));
    expect(back.node).toBe(draft.view.line[1]!.id);
    expect(enteredIn(enter(back, moves[2]!))).toEqual(moves);
  });

  it('is begun anew, and put forward again move by move', () => {
    const anew = begunAnew(openDraft(kind, { start: startText, moves }));
    expect(enteredIn(anew)).toEqual([]);
    let forward = anew;
    for (let count = 1; count <= moves.length; count++) {
      forward = redone(forward)!.document;
      expect(enteredIn(forward)).toEqual(moves.slice(0, count));
    }
    expect(redone(forward)).toBeNull();
  });
});
