import { describe, expect, it } from 'vitest';
import { SET_COUNTS, LETTERS } from '../shogi/pieces';
import { shogi } from '../shogi/ruleset';
import { castleOf, shogiOpening } from './shogi-openings';
import { CASTLE_SHAPES, OPENING_SHAPES } from './shogi-shapes';

const linesOf = (text: string) =>
  text
    .trim()
    .split('\n')
    .map(
      (line) => line.split('|') as [name: string, japanese: string, places: string, until?: string],
    );
const CASTLES = linesOf(CASTLE_SHAPES);
const OPENINGS = linesOf(OPENING_SHAPES);

/** An SFEN in which pieces stand as a shape has them, from Black's view, or from White's. */
function positionWith(places: string, side: 0 | 1 = 0) {
  const board = Array.from({ length: 9 }, () => Array<string>(9).fill(''));
  let hands = '';
  const put = (file: number, rank: number, letter: string): void => {
    const [column, row] = side === 0 ? [9 - file, rank - 1] : [file - 1, 9 - rank];
    board[row]![column] = side === 0 ? letter : swapped(letter);
  };
  for (const place of places.split(' ')) {
    if (place[0] === '-') continue;
    if (place[1] === '*') hands += side === 0 ? place[0]! : swapped(place[0]!);
    else put(Number(place[1]), Number(place[2]), place[0]!);
  }
  if (!places.includes('K')) put(5, 9, 'K');
  put(5, 1, 'k');
  const rows = board.map((row) =>
    row
      .map((piece) => piece || '1')
      .join('')
      .replace(/1+/g, (run) => String(run.length)),
  );
  const inHand = [...hands].sort().join('') || '-';
  return shogi.start(`${rows.join('/')} ${side === 0 ? 'b' : 'w'} ${inHand} 1`);
}
const swapped = (letter: string): string =>
  letter === letter.toLowerCase() ? letter.toUpperCase() : letter.toLowerCase();

const openingAfter = (codes: string) =>
  shogiOpening(
    shogi.start(),
    codes.split(' ').map((code) => shogi.parseCode(code)!),
  );

describe('the openings and castles of shogi', () => {
  it('are many, each with names and a shape of its own', () => {
    const all = [...CASTLES, ...OPENINGS];
    expect(all.length).toBeGreaterThanOrEqual(60);
    for (const part of [0, 1] as const)
      expect(new Set(all.map((line) => line[part])).size).toBe(all.length);
    const shapes = all.map(
      ([, , places, until]) => `${places.split(' ').sort().join(' ')} ${until}`,
    );
    expect(new Set(shapes).size).toBe(all.length);
  });

  it.each([...CASTLES, ...OPENINGS])(
    '%s: is one that a set of pieces can make',
    (_, japanese, places) => {
      expect(japanese).toMatch(/[\u3040-\u30ff\u4e00-\u9fff]/);
      const words = places.split(' ');
      const squares = words.filter((word) => word[1] !== '*').map((word) => word.slice(1));
      expect(new Set(squares).size).toBe(squares.length);
      for (const word of words)
        expect(word).toMatch(/^(-|[PLNSGBRKplnsgbrk])([1-9][1-9])$|^[BRbr]\*$/);
      for (const [type, letter] of LETTERS.entries())
        if (type > 0)
          expect(
            words.filter((word) => word[0]!.toUpperCase() === letter).length,
          ).toBeLessThanOrEqual(SET_COUNTS[type]!);
    },
  );

  it.each(CASTLES)('%s is known on either side', (name, japanese, places) => {
    const full = places.includes('K') ? places : `K69 ${places}`;
    for (const side of [0, 1] as const) {
      const position = positionWith(full, side);
      expect(castleOf(position, side)).toEqual({ name, japanese });
      expect(castleOf(position, side === 0 ? 1 : 0)).toBeNull();
    }
  });

  it.each([
    ['7g7f 3c3d 2h6h', 'Fourth-File Rook', 0],
    ['7g7f 3c3d 2g2f 8b5b', 'Central Rook', 1],
    ['7g7f 3c3d 2g2f 5c5d 2f2e 8b5b 4i5h 5d5e', 'Cheerful Central Rook', 1],
    ['7g7f 3c3d 7f7e 8c8d 2h7h', 'Early Ishida', 0],
    ['2g2f 8c8d 2f2e 8d8e', 'Double Wing Attack', 0],
    [
      '7g7f 3c3d 2g2f 8c8d 2f2e 8d8e 6i7h 4a3b 2e2d 2c2d 2h2d 8e8f 8g8f 8b8f 2d3d',
      'Side Pawn Capture',
      0,
    ],
    ['7g7f 8c8d 2g2f 8d8e 8h7g 3c3d 7i8h 2b7g+ 8h7g', 'Bishop Exchange', 0],
    ['7g7f 8c8d 7i6h 3c3d 6g6f 7a6b 6h7g', 'Yagura', 0],
    ['7g7f 4c4d', 'Pac-Man Opening', 0],
    ['7i6h 3c3d', 'Ureshino Opening', 0],
  ])('%s: %s', (moves, name, side) => {
    const legal = moves.split(' ').every((code, index, all) => {
      let position = shogi.start();
      for (const before of all.slice(0, index))
        position = shogi.play(position, shogi.parseCode(before)!);
      return shogi.isLegal(position, shogi.parseCode(code)!);
    });
    expect(legal).toBe(true);
    expect(openingAfter(moves)).toMatchObject({ name, side });
  });

  it('have no name before anything was chosen', () => {
    expect(openingAfter('7g7f 8c8d')).toBeNull();
  });

  it('are of the first thirty half moves, and of so many where a shape says less later', () => {
    const wait = (pairs: number) =>
      Array.from({ length: pairs }, (_, index) =>
        index % 2 === 0 ? '6i7h 4a3b' : '7h6i 3b4a',
      ).join(' ');
    expect(openingAfter(`${wait(14)} 2h6h`)?.name).toBe('Fourth-File Rook');
    expect(openingAfter(`${wait(15)} 2h6h`)).toBeNull();
    expect(openingAfter(`${wait(1)} 7i6h`)?.name).toBe('Ureshino Opening');
    expect(openingAfter(`${wait(2)} 7i6h`)).toBeNull();
  });
});
