import { CHESS_START, readFen } from '../chess/fen';
import type { ChessPosition } from '../chess/position';
import { readSan } from '../chess/san';
import type { Move } from '../game/move';
import { CHESS_LINES } from './chess-lines';
import type { Opening } from './opening';

/** Half moves within which a position may have a name, transpositions included. */
const LONGEST = 30;

let byKey: ReadonlyMap<bigint, Opening> | null = null;

/** Openings by the keys of the positions that have their names; played through once. */
const openings = (): ReadonlyMap<bigint, Opening> =>
  (byKey ??= new Map(CHESS_LINES.trim().split('\n').map(readLine)));

function readLine(line: string): [bigint, Opening] {
  const [code, name, japanese, moves] = line.split('|');
  const position = readFen(CHESS_START);
  for (const word of moves!.split(' ')) {
    const reading = readSan(position, word);
    if (!('move' in reading)) throw new Error(`${name}: ${word} is ${reading.problem}`);
    position.make(reading.move);
  }
  return [position.key(), { code: code!, name: name!, japanese: japanese! }];
}

/** The opening of a game: that of the last of its positions that has a name, by whatever moves it came about. */
export function chessOpening(start: ChessPosition, moves: readonly Move[]): Opening | null {
  const known = openings();
  const position = start.clone();
  let found: Opening | null = null;
  for (const move of moves.slice(0, LONGEST)) {
    position.make(move);
    found = known.get(position.key()) ?? found;
  }
  return found;
}
