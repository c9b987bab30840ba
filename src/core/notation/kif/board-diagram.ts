import { PositionError, type Side } from '../../game/ruleset';
import { squareAt } from '../../shogi/board-geometry';
import { HAND_ORDER, sideOf, typeOf } from '../../shogi/pieces';
import { ShogiPosition } from '../../shogi/position';
import { validated } from '../../shogi/sfen';
import { PIECE_NAMES, typeOfName } from '../../shogi/japanese';

const KANJI_RANKS = '一二三四五六七八九';
const KANJI_COUNTS = ['', '一', '二', '三', '四', '五', '六', '七', '八', '九'];

/** One letter for each piece on a diagram. */
const DIAGRAM_NAMES: readonly string[] = PIECE_NAMES.map((name) =>
  name === '成香' ? '杏' : name === '成桂' ? '圭' : name === '成銀' ? '全' : name,
);

const readCount = (text: string): number => {
  if (text === '') return 1;
  const [tens, ones] = text.includes('十') ? text.split('十') : ['', text];
  const digit = (part: string | undefined): number =>
    part ? Math.max(KANJI_COUNTS.indexOf(part), 0) : 0;
  return text.includes('十') ? 10 * (tens === '' ? 1 : digit(tens)) + digit(ones) : digit(ones);
};

const writeCount = (count: number): string =>
  count < 2 ? '' : (count > 9 ? '十' : '') + KANJI_COUNTS[count % 10]!;

/** Collects a board diagram as KIF draws it, line by line. */
export class DiagramReader {
  private readonly position = new ShogiPosition();
  private rank = 0;

  get started(): boolean {
    return this.rank > 0;
  }

  /** Reads a row such as `|v香v桂 ・ ・|一`; false where the line is none. */
  readRow(line: string): boolean {
    const match = /^\|((?:[ v^].){9})\|/u.exec(line);
    if (!match) return false;
    this.rank++;
    if (this.rank > 9) throw new PositionError('kif.rows', {});
    const cells = [...match[1]!];
    for (let column = 0; column < 9; column++) {
      const name = cells[column * 2 + 1]!;
      if (name === '・' || name === '　') continue;
      const type = typeOfName(name);
      if (type < 1) throw new PositionError('kif.piece', { found: name });
      const side = cells[column * 2] === 'v' ? 1 : 0;
      this.position.board[squareAt(9 - column, this.rank)] = type | (side << 4);
    }
    return true;
  }

  readHand(side: Side, text: string): void {
    this.position.hands[side].fill(0);
    if (/^\s*なし\s*$/.test(text)) return;
    for (const [, name, count] of text.matchAll(/([飛角金銀桂香歩])([一二三四五六七八九十]*)/g))
      this.position.hands[side][typeOfName(name!)] = readCount(count!);
  }

  setSide(side: Side): void {
    this.position.side = side;
  }

  /** @throws PositionError when what was read can't be a position */
  finish(): ShogiPosition {
    if (this.rank !== 9) throw new PositionError('kif.rows', {});
    return validated(this.position.settle());
  }
}

/** Draws a position as KIF does. */
export function writeDiagram(position: ShogiPosition): string {
  const hand = (side: Side): string => {
    const held = HAND_ORDER.filter((type) => position.hands[side][type]! > 0).map(
      (type) => PIECE_NAMES[type] + writeCount(position.hands[side][type]!),
    );
    return held.length > 0 ? held.join('　') : 'なし';
  };
  const rows = [...KANJI_RANKS].map((name, index) => {
    let row = '';
    for (let file = 9; file >= 1; file--) {
      const piece = position.board[squareAt(file, index + 1)]!;
      row +=
        piece === 0 ? ' ・' : (sideOf(piece) === 1 ? 'v' : ' ') + DIAGRAM_NAMES[typeOf(piece)]!;
    }
    return `|${row}|${name}`;
  });
  return [
    `後手の持駒：${hand(1)}`,
    '  ９ ８ ７ ６ ５ ４ ３ ２ １',
    '+---------------------------+',
    ...rows,
    '+---------------------------+',
    `先手の持駒：${hand(0)}`,
    ...(position.side === 1 ? ['後手番'] : []),
    '',
  ].join('\n');
}
