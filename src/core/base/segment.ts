import type { Move } from '../game/move';
import { BlockWriter, type Block, type Continuation } from './block';

/** Of a position's key and its place among all, what is sorted by: so many bits of the place. */
const PLACE_BITS = 23;
/** Positions that a segment holds. */
export const MOST_POSITIONS = 2 ** PLACE_BITS;
const PLACE = MOST_POSITIONS - 1;
/** Stands for the move where the game ended. */
const END = -1;

/**
 * Collects games of a base and gives all that was played in them, ordered by position: in memory, so as many at a time as fit.
 * A game counts once for a move at a position.
 */
export class Segment {
  private keys: BigUint64Array;
  private moves: Int32Array;
  private games: Uint32Array;
  private size = 0;

  /** @param expected positions that there is room for at once */
  constructor(expected = 4096) {
    this.keys = new BigUint64Array(expected);
    this.moves = new Int32Array(expected);
    this.games = new Uint32Array(expected);
  }

  /** Whether a game of so many half moves finds no room any more. */
  isFull(plies: number): boolean {
    return this.size + plies + 1 > MOST_POSITIONS;
  }

  /**
   * @param game its number, larger than those before
   * @param keys of its positions, the start first
   * @param moves one less than there are positions
   */
  add(game: number, keys: readonly bigint[], moves: readonly Move[]): void {
    this.grow(this.size + moves.length + 1);
    for (let ply = 0; ply <= moves.length; ply++) {
      this.keys[this.size] = keys[ply]!;
      this.moves[this.size] = moves[ply] ?? END;
      this.games[this.size++] = game;
    }
  }

  /** How many positions there are in it. */
  get positions(): number {
    return this.size;
  }

  private grow(wanted: number): void {
    if (wanted <= this.keys.length) return;
    const length = Math.max(wanted, 2 * this.keys.length);
    const [keys, moves, games] = [
      new BigUint64Array(length),
      new Int32Array(length),
      new Uint32Array(length),
    ];
    keys.set(this.keys);
    moves.set(this.moves);
    games.set(this.games);
    Object.assign(this, { keys, moves, games });
  }

  /** All positions, by their keys. */
  *blocks(): Generator<Block> {
    const writer = new BlockWriter();
    const places = this.placesByKey();
    for (let from = 0; from < places.length;) {
      const key = this.keys[places[from]!]!;
      let to = from + 1;
      while (to < places.length && this.keys[places[to]!] === key) to++;
      if (to === from + 1)
        writer.addOnly(key, this.moveAt(places[from]!), this.games[places[from]!]!);
      else writer.add(key, this.continuations(places.subarray(from, to)));
      if (writer.hasBlocks) yield* writer.take();
      from = to;
    }
    yield* writer.take(true);
  }

  /** Places of all positions in the order of their keys; of one key in the order in which they came. */
  private placesByKey(): Uint32Array {
    const { size, keys } = this;
    const sorted = keys.slice(0, size);
    // by halves, the lower first: a bigint of its own for each of millions takes longer than to sort them
    const halves = new Uint32Array(sorted.buffer);
    for (let place = 0; place < size; place++)
      halves[2 * place] = (halves[2 * place]! & ~PLACE) | place;
    sorted.sort();
    const places = new Uint32Array(size);
    for (let index = 0; index < size; index++) places[index] = halves[2 * index]! & PLACE;
    // keys that differ in nothing but the bits that gave way to the place
    const isAlike = (one: number, other: number): boolean =>
      halves[2 * one + 1] === halves[2 * other + 1] &&
      halves[2 * one]! >>> PLACE_BITS === halves[2 * other]! >>> PLACE_BITS;
    for (let from = 0; from < size;) {
      let to = from + 1;
      let differs = false;
      for (; to < size && isAlike(from, to); to++)
        differs ||= keys[places[to]!] !== keys[places[from]!];
      if (differs)
        places
          .subarray(from, to)
          .sort((a, b) => (keys[a]! < keys[b]! ? -1 : keys[a]! > keys[b]! ? 1 : a - b));
      from = to;
    }
    return places;
  }

  private moveAt(place: number): Move | null {
    const move = this.moves[place]!;
    return move === END ? null : (move as Move);
  }

  /** What was played at the places of one position. */
  private continuations(places: Uint32Array): Continuation[] {
    const byMove = new Map<number, number[]>();
    for (const place of places) {
      const [move, game] = [this.moves[place]!, this.games[place]!];
      const games = byMove.get(move);
      if (!games) byMove.set(move, [game]);
      else if (games.at(-1) !== game) games.push(game);
    }
    return Array.from(byMove, ([move, games]) => ({
      move: move === END ? null : (move as Move),
      games,
    }));
  }
}
