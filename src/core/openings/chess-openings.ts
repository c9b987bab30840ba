import { chess } from '../chess/ruleset';
import { readSan } from '../chess/san';
import { CHESS_LINES } from './chess-lines';

/** A common opening. */
export interface Opening {
  /** A letter and two digits. */
  code: string;
  name: string;
  japanese: string;
}

let byKey: ReadonlyMap<bigint, Opening> | null = null;

/** Openings by the keys of the positions that have their names; played through once. */
const openings = (): ReadonlyMap<bigint, Opening> =>
  (byKey ??= new Map(CHESS_LINES.trim().split('\n').map(readLine)));

function readLine(line: string): [bigint, Opening] {
  const [code, name, japanese, moves] = line.split('|');
  let position = chess.start();
  for (const word of moves!.split(' ')) {
    const reading = readSan(position, word);
    if (!('move' in reading)) throw new Error(`${name}: ${word} is ${reading.problem}`);
    position = chess.play(position, reading.move);
  }
  return [chess.key(position), { code: code!, name: name!, japanese: japanese! }];
}

/**
 * The opening of a game: that of the last of its positions that has a name, by whatever moves it came about.
 * @param keys of its positions, the start first
 */
export function openingOf(keys: readonly bigint[]): Opening | null {
  const key = keys.findLast((one) => openings().has(one));
  return key === undefined ? null : openings().get(key)!;
}
