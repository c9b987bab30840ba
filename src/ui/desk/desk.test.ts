import { describe, expect, it } from 'vitest';
import type { GameRecord } from '@/core/game/record';
import { ROOT } from '@/core/game/tree';
import { readGames, type Format } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { clockText, scoreText } from '../format';
import { moveText, numberText, readLine } from '../move-text';
import { nextAfter } from './desk-keys';
import { createDeskStore } from './desk-store';
import { GameView } from '../game-view';
import { signsOf } from './sign';

function viewOf(text: string, format: Format = 'pgn'): GameView {
  const [reading] = [...readGames(text, format)];
  if (!reading || !isRead(reading)) throw new Error(JSON.stringify(reading));
  return new GameView(reading.record as GameRecord);
}

const PGN = `[White "A"]
[TimeControl "900+10"]

1. e4 {[%clk 0:15:00]} e5 {[%clk 0:14:50]} 2. Nf3 {[%clk 0:14:40]} (2. Bc4 Nf6 (2... Bc5 3. Qh5)) Nc6 3. Bb5 a6 *`;

describe('stepping through a game', () => {
  const view = viewOf(PGN);
  const store = createDeskStore(view, { gameId: 1, version: 1, right: 'own' }, ROOT, false);
  const at = () => store.getState();

  it('follows the main line, and stops at its ends', () => {
    at().move(-1);
    expect(at().node).toBe(ROOT);
    for (let i = 0; i < 10; i++) at().move(1);
    expect(view.plyOf(at().node)).toBe(6);
    at().toStart();
    expect(at().node).toBe(ROOT);
    at().toEnd();
    expect(view.plyOf(at().node)).toBe(6);
    at().goToPly(3);
    expect(view.node(at().node).move).toBe(view.line[2]!.move);
    at().goToPly(99);
    expect(view.plyOf(at().node)).toBe(6);
  });

  it('goes on in a variation once there, and back out of it', () => {
    const [, bishop] = view.node(view.nodeAtPly(2)).children;
    at().goTo(bishop!);
    expect(view.isMainLine(bishop!)).toBe(false);
    expect(view.plyOf(bishop!)).toBe(2);
    at().move(1);
    at().toEnd();
    expect(view.node(at().node).children).toEqual([]);
    at().move(-1);
    at().move(-1);
    expect(at().node).toBe(view.nodeAtPly(2));
  });

  it('steps through a line of an engine and comes back to where it left', () => {
    const base = view.nodeAtPly(1);
    const codes = ['c7c5', 'g1f3', 'd7d6'];
    at().follow(base, codes, 1);
    expect(at()).toMatchObject({ node: base, excursion: { step: 1 } });
    at().move(1);
    at().move(1);
    at().move(1);
    expect(at().excursion).toMatchObject({ step: 3 });
    at().move(-1);
    at().leaveExcursion();
    expect(at()).toMatchObject({ node: base, excursion: null });
    at().follow(base, codes, 1);
    at().move(-1);
    expect(at()).toMatchObject({ node: base, excursion: null });
    at().follow(base, codes, 2);
    at().goToPly(2);
    expect(at().excursion).toBeNull();
    at().follow(base, [], 1);
    expect(at().excursion).toBeNull();
  });

  it('opens at a node of the address, or at the start where there is none such', () => {
    const third = view.nodeAtPly(3);
    expect(
      createDeskStore(view, { gameId: 1, version: 1, right: 'own' }, third, false).getState().node,
    ).toBe(third);
    expect(
      createDeskStore(view, { gameId: 1, version: 1, right: 'own' }, 424_242, true).getState(),
    ).toMatchObject({
      node: ROOT,
      flipped: true,
    });
  });

  it('turns the board', () => {
    at().flip();
    expect(at().flipped).toBe(true);
  });
});

describe('clocks on the Desk', () => {
  it('show what each side has left after a ply', () => {
    const view = viewOf(PGN);
    expect(view.clocksAtPly(0)).toEqual([900_000, 900_000]);
    expect(view.clocksAtPly(1)).toEqual([900_000, 900_000]);
    expect(view.clocksAtPly(3)).toEqual([880_000, 890_000]);
    expect(view.timeAtPly(3)?.spent).toBe(30_000);
    expect(view.timeAtPly(0)).toBeNull();
  });
  it('count for the upper side first in a handicap game', () => {
    const kif =
      '手合割：香落ち\n持ち時間：10分\n   1 ３四歩(33)   ( 1:00/00:01:00)\n   2 ７六歩(77)   ( 0:30/00:00:30)\n';
    const view = viewOf(kif, 'kif');
    expect(view.firstSide).toBe(1);
    expect(view.clocksAtPly(1)).toEqual([600_000, 540_000]);
    expect(view.clocksAtPly(2)).toEqual([570_000, 540_000]);
  });
});

describe('keys to the next of some moves', () => {
  it.each([
    [[5, 9, 20], 0, 1, 5],
    [[5, 9, 20], 5, 1, 9],
    [[5, 9, 20], 20, 1, 5],
    [[5, 9, 20], 9, -1, 5],
    [[5, 9, 20], 5, -1, 20],
    [[], 3, 1, null],
  ] as const)('of %j from %d going %d: %s', (plies, ply, direction, expected) => {
    expect(nextAfter(plies, ply, direction)).toBe(expected);
  });
});

describe('texts of moves', () => {
  it('are numbered as each game counts', () => {
    const chess = viewOf(PGN);
    expect(
      [0, 1, 2].map((ply) => numberText(chess.ruleset, chess.positionOf(chess.nodeAtPly(ply)))),
    ).toEqual(['1.', '1…', '2.']);
    const shogi = viewOf(
      '   1 ７六歩(77)\n   2 ３四歩(33)\n   3 ２二角成(88)\n   4 同　銀(31)\n',
      'kif',
    );
    const text = (ply: number, notation: 'western' | 'japanese'): string => {
      const node = shogi.line[ply - 1]!;
      const before = shogi.positionOf(node.parent!);
      return moveText(shogi.ruleset, before, node.move, shogi.moveTo(node.parent!), notation);
    };
    expect(text(3, 'western')).toBe('Bx2b+');
    expect([1, 2, 3, 4].map((ply) => text(ply, 'japanese'))).toEqual([
      '☗７六歩',
      '☖３四歩',
      '☗２二角成',
      '☖同　銀',
    ]);
    expect(numberText(shogi.ruleset, shogi.positionOf(shogi.nodeAtPly(3)))).toBe('4');
  });
  it('a line ends where it no longer fits', () => {
    const view = viewOf(PGN);
    const line = readLine(
      view.ruleset,
      view.positionOf(ROOT),
      ['e2e4', 'e7e5', 'e1e3', 'a7a6'],
      null,
      'western',
    );
    expect(line.map(({ text, number }) => [number, text])).toEqual([
      ['1.', 'e4'],
      [null, 'e5'],
    ]);
  });
});

describe('signs', () => {
  it('of people win over those of the review', () => {
    expect(signsOf([1], 'blunder')).toEqual([1]);
    expect(signsOf(undefined, 'blunder')).toEqual([4]);
    expect(signsOf([], 'none')).toEqual([]);
    expect(signsOf(undefined, undefined)).toEqual([]);
  });
});

describe('figures', () => {
  it.each([
    [14_000, '0:14'],
    [3_400, '0:03.4'],
    [62_900, '1:02'],
    [3_723_000, '1:02:03'],
  ])('%d ms is %s', (milliseconds, text) => {
    expect(clockText(milliseconds)).toBe(text);
  });
  it.each([
    [{ kind: 'cp', cp: 60 }, 0, '+0.60'],
    [{ kind: 'cp', cp: 60 }, 1, '−0.60'],
    [{ kind: 'cp', cp: 0 }, 1, '0.00'],
    [{ kind: 'cp', cp: -1234 }, 0, '−12.3'],
    [{ kind: 'mate', plies: 5, winner: 0 }, 0, '+#3'],
    [{ kind: 'mate', plies: 6, winner: 1 }, 0, '−#3'],
  ] as const)('%j from side %d is %s', (score, side, text) => {
    expect(scoreText(score, side, { numbering: 'move' })).toBe(text);
  });
  it('mates are counted in plies in shogi', () => {
    expect(scoreText({ kind: 'mate', plies: 5, winner: 0 }, 0, { numbering: 'ply' })).toBe('+#5');
  });
});
