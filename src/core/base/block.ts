import type { Move } from '../game/move';

/** The games of a base that went on from a position in one way: by their numbers, ascending. */
export interface Continuation {
  /** null: the game ended there. */
  move: Move | null;
  games: readonly number[];
}

/** Positions, by their keys in ascending order, with what was played there; as they are stored. */
export interface Block {
  first: bigint;
  last: bigint;
  bytes: Uint8Array;
}

/** Bytes of a position's key. */
const KEY = 8;
/** Bytes ahead of the keys: how many there are. */
const HEAD = 4;
/** From so many bytes on a block is closed; a position with more is a block of its own. */
const FULL = 8000;

/**
 * Packs positions into blocks: their number, their keys, and behind them for each what was played. Numbers there are of seven bits a byte,
 * the least first, the last byte without its highest bit. A position that one game met is 0, the move and the game; another the number
 * of its continuations, and for each the move, how many games, and their numbers as steps from one to the next. A move is stored as one more
 * than it is, 0 where the game ended.
 */
export class BlockWriter {
  private keys: bigint[] = [];
  private bytes = new Uint8Array(2 * FULL);
  private length = 0;
  private readonly done: Block[] = [];

  /** To be called with ascending keys. */
  add(key: bigint, continuations: readonly Continuation[]): void {
    const [only] = continuations;
    if (continuations.length === 1 && only!.games.length === 1)
      return this.addOnly(key, only!.move, only!.games[0]!);
    this.put(continuations.length);
    for (const { move, games } of continuations) {
      this.put(stored(move));
      this.put(games.length);
      let last = 0;
      for (const game of games) {
        this.put(game - last);
        last = game;
      }
    }
    this.end(key);
  }

  /** A position that one game met, as most are. */
  addOnly(key: bigint, move: Move | null, game: number): void {
    this.put(0);
    this.put(stored(move));
    this.put(game);
    this.end(key);
  }

  /** A position of another block, as it is stored there between two places. */
  addStored(key: bigint, bytes: Uint8Array, from: number, to: number): void {
    this.makeRoom(to - from);
    for (let at = from; at < to; at++) this.bytes[this.length++] = bytes[at]!;
    this.end(key);
  }

  private end(key: bigint): void {
    this.keys.push(key);
    if (this.length + KEY * this.keys.length >= FULL) this.close();
  }

  /** Whether there are any to be taken. */
  get hasBlocks(): boolean {
    return this.done.length > 0;
  }

  /** The blocks that are complete by now; at the end, with the last one. */
  take(isEnd = false): Block[] {
    if (isEnd && this.keys.length > 0) this.close();
    return this.done.splice(0);
  }

  private close(): void {
    const { keys, length } = this;
    const bytes = new Uint8Array(HEAD + KEY * keys.length + length);
    const view = new DataView(bytes.buffer);
    view.setUint32(0, keys.length);
    keys.forEach((key, index) => view.setBigUint64(HEAD + KEY * index, key));
    bytes.set(this.bytes.subarray(0, length), HEAD + KEY * keys.length);
    this.done.push({ first: keys[0]!, last: keys.at(-1)!, bytes });
    this.keys = [];
    this.length = 0;
  }

  private makeRoom(wanted: number): void {
    if (this.length + wanted <= this.bytes.length) return;
    const larger = new Uint8Array(Math.max(this.length + wanted, 2 * this.bytes.length));
    larger.set(this.bytes);
    this.bytes = larger;
  }

  private put(number: number): void {
    this.makeRoom(5);
    let rest = number;
    while (rest > 127) {
      this.bytes[this.length++] = (rest & 127) | 128;
      rest >>>= 7;
    }
    this.bytes[this.length++] = rest;
  }
}

const stored = (move: Move | null): number => (move === null ? 0 : move + 1);
const moveOf = (number: number): Move | null => (number === 0 ? null : ((number - 1) as Move));

/** What was played at a position by the games of a block; none where it does not hold the position. */
export function findInBlock(bytes: Uint8Array, key: bigint): Continuation[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const count = view.getUint32(0);
  const place = placeOf(view, count, key);
  if (place < 0) return [];
  const reader = new NumberReader(bytes, HEAD + KEY * count);
  for (let before = 0; before < place; before++) reader.pass();
  return reader.read();
}

/** Where a key is among those of a block; -1 where it is not. */
function placeOf(view: DataView, count: number, key: bigint): number {
  let [low, high] = [0, count];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (view.getBigUint64(HEAD + KEY * middle) < key) low = middle + 1;
    else high = middle;
  }
  return low < count && view.getBigUint64(HEAD + KEY * low) === key ? low : -1;
}

/** Goes through the positions of a block in the order of their keys. */
export class BlockCursor {
  /** Of the position that it stands at. */
  key = 0n;
  private readonly view: DataView;
  private readonly count: number;
  private readonly reader: NumberReader;
  private place = -1;
  /** Where what was played at the position begins. */
  private from = 0;

  constructor(private readonly bytes: Uint8Array) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    this.count = this.view.getUint32(0);
    this.reader = new NumberReader(bytes, HEAD + KEY * this.count);
  }

  /** Goes on to the next position, the first one to begin with; false at the end. */
  step(): boolean {
    if (++this.place >= this.count) return false;
    this.key = this.view.getBigUint64(HEAD + KEY * this.place);
    this.from = this.reader.at;
    this.reader.pass();
    return true;
  }

  /** What was played there. */
  read(): Continuation[] {
    return new NumberReader(this.bytes, this.from).read();
  }

  /** Adds the position to other blocks as it is. */
  copyTo(writer: BlockWriter): void {
    writer.addStored(this.key, this.bytes, this.from, this.reader.at);
  }
}

class NumberReader {
  constructor(
    private readonly bytes: Uint8Array,
    public at: number,
  ) {}

  private next(): number {
    let number = 0;
    for (let shift = 0; ; shift += 7) {
      const byte = this.bytes[this.at++]!;
      number |= (byte & 127) << shift;
      if (byte < 128) return number;
    }
  }

  private skip(numbers: number): void {
    for (let left = numbers; left > 0;) if (this.bytes[this.at++]! < 128) left--;
  }

  /** Passes what was played at one position. */
  pass(): void {
    const count = this.next();
    if (count === 0) this.skip(2);
    for (let each = 0; each < count; each++) {
      this.skip(1);
      this.skip(this.next());
    }
  }

  read(): Continuation[] {
    const count = this.next();
    if (count === 0) return [{ move: moveOf(this.next()), games: [this.next()] }];
    return Array.from({ length: count }, () => {
      const move = moveOf(this.next());
      const games: number[] = new Array<number>(this.next());
      let last = 0;
      for (let index = 0; index < games.length; index++) games[index] = last += this.next();
      return { move, games };
    });
  }
}
