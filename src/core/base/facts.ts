import { TIME_CLASSES, type TimeClass } from '../game/time-class';
import { RESULTS, type Result } from '../game/result';
import { otherSide, type Side } from '../game/ruleset';

/** What a base knows of a game besides its moves. */
export interface BaseGame {
  result: Result;
  /** Of either side; null: not known. */
  ratings: readonly [number | null, number | null];
  /** Numbers of the players; null: not named. */
  players: readonly [number | null, number | null];
  year: number | null;
  timeClass: TimeClass | null;
  rated: boolean | null;
  /** Whether it began from another position than the ordinary start. */
  isSetUp: boolean;
}

const RATED = [null, false, true] as const;
const CLASSES = [null, ...TIME_CLASSES] as const;
/** What is not known, in columns of numbers above it. */
const UNKNOWN = 0;

/** Of one game, as bytes: how many there are. */
const BYTES = 18;

/** The facts of a base's games, by their numbers, in columns: some twenty bytes each. */
export class FactColumns {
  /** As places among {@link RESULTS}. */
  readonly results: Uint8Array;
  readonly years: Uint16Array;
  readonly timeClasses: Uint8Array;
  readonly rated: Uint8Array;
  readonly setUp: Uint8Array;
  readonly ratings: readonly [Uint16Array, Uint16Array];
  /** One more than the player's number. */
  readonly players: readonly [Uint32Array, Uint32Array];
  /** Games that have left the base. */
  readonly gone: Uint8Array;

  /**
   * @param size how many games there are
   * @param before facts of the first of them, which never change but that some leave: the columns are shared while there is room in them
   */
  constructor(
    readonly size: number,
    before?: FactColumns,
  ) {
    const there = before?.gone.length ?? 0;
    const room = there >= size ? there : before ? size + (size >> 3) : size;
    const column = <T extends Uint8Array | Uint16Array | Uint32Array>(
      Column: new (length: number) => T,
      known?: T,
    ): T => {
      if (known && known.length === room) return known;
      const made = new Column(room);
      if (known) made.set(known);
      return made;
    };
    this.results = column(Uint8Array, before?.results);
    this.years = column(Uint16Array, before?.years);
    this.timeClasses = column(Uint8Array, before?.timeClasses);
    this.rated = column(Uint8Array, before?.rated);
    this.setUp = column(Uint8Array, before?.setUp);
    this.ratings = [
      column(Uint16Array, before?.ratings[0]),
      column(Uint16Array, before?.ratings[1]),
    ];
    this.players = [
      column(Uint32Array, before?.players[0]),
      column(Uint32Array, before?.players[1]),
    ];
    this.gone = column(Uint8Array, before?.gone);
  }

  set(game: number, { result, ratings, players, year, timeClass, rated, isSetUp }: BaseGame): void {
    this.results[game] = RESULTS.indexOf(result);
    this.years[game] = year ?? UNKNOWN;
    this.timeClasses[game] = CLASSES.indexOf(timeClass);
    this.rated[game] = RATED.indexOf(rated);
    this.setUp[game] = Number(isSetUp);
    for (const side of [0, 1] as const) {
      this.ratings[side][game] = ratings[side] ?? UNKNOWN;
      const player = players[side];
      this.players[side][game] = player === null ? UNKNOWN : player + 1;
    }
  }

  /** The facts of the first games as they are stored, but for which have left: eighteen bytes a game. */
  pack(games = this.size): Uint8Array {
    const bytes = new Uint8Array(BYTES * games);
    const view = new DataView(bytes.buffer);
    for (let game = 0; game < games; game++) {
      const at = BYTES * game;
      view.setUint8(at, this.results[game]!);
      view.setUint8(at + 1, this.timeClasses[game]!);
      view.setUint8(at + 2, this.rated[game]!);
      view.setUint8(at + 3, this.setUp[game]!);
      view.setUint16(at + 4, this.years[game]!);
      for (const side of [0, 1] as const) {
        view.setUint16(at + 6 + 2 * side, this.ratings[side][game]!);
        view.setUint32(at + 10 + 4 * side, this.players[side][game]!);
      }
    }
    return bytes;
  }

  /** Takes over what {@link pack} gave, for the games from a number on. */
  unpack(from: number, bytes: Uint8Array): void {
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    for (let at = 0, game = from; at < bytes.length; at += BYTES, game++) {
      this.results[game] = view.getUint8(at);
      this.timeClasses[game] = view.getUint8(at + 1);
      this.rated[game] = view.getUint8(at + 2);
      this.setUp[game] = view.getUint8(at + 3);
      this.years[game] = view.getUint16(at + 4);
      for (const side of [0, 1] as const) {
        this.ratings[side][game] = view.getUint16(at + 6 + 2 * side);
        this.players[side][game] = view.getUint32(at + 10 + 4 * side);
      }
    }
  }
}

/** Which games of a base are asked for; what is left out does not matter. */
export interface BaseFilter {
  /** Both ends are included; of the side to move. */
  rating?: readonly [from: number, to: number] | undefined;
  years?: readonly [from: number, to: number] | undefined;
  timeClass?: TimeClass | undefined;
  rated?: boolean | undefined;
  result?: Result | undefined;
  /** The numbers of a player's names, and the side on which they are to have played; left out: either. */
  players?: readonly number[] | undefined;
  side?: Side | undefined;
  /** Only those that began from the ordinary start. */
  fromStart?: boolean | undefined;
}

/** What of a filter is to be asked of games that met a position with colours reversed. */
export const reversedFilter = ({ result, side, ...others }: BaseFilter): BaseFilter => ({
  ...others,
  result: result && REVERSED[result],
  side: side === undefined ? undefined : otherSide(side),
});

const REVERSED: Record<Result, Result> = {
  '1-0': '0-1',
  '0-1': '1-0',
  '1/2-1/2': '1/2-1/2',
  '*': '*',
};

/** Whether a game suits a filter, at a position where a side is to move; those that have left never do. */
export function suits(
  facts: FactColumns,
  filter: BaseFilter,
  toMove: Side,
): (game: number) => boolean {
  const { rating, years, timeClass, rated, result, players, side, fromStart } = filter;
  const tests: ((game: number) => boolean)[] = [(game) => facts.gone[game] === 0];
  const between = (known: Uint16Array, [from, to]: readonly [number, number]): void => {
    tests.push((game) => known[game] !== UNKNOWN && known[game]! >= from && known[game]! <= to);
  };
  const equal = (column: Uint8Array, wanted: number): void => {
    tests.push((game) => column[game] === wanted);
  };
  if (rating) between(facts.ratings[toMove], rating);
  if (years) between(facts.years, years);
  if (timeClass !== undefined) equal(facts.timeClasses, CLASSES.indexOf(timeClass));
  if (rated !== undefined) equal(facts.rated, RATED.indexOf(rated));
  if (result !== undefined) equal(facts.results, RESULTS.indexOf(result));
  if (fromStart) equal(facts.setUp, 0);
  if (players) {
    const wanted = new Set(players.map((player) => player + 1));
    const [first, second] = facts.players;
    tests.push((game) =>
      side === undefined
        ? wanted.has(first[game]!) || wanted.has(second[game]!)
        : wanted.has(facts.players[side][game]!),
    );
  }
  const [stays, ...others] = tests;
  if (others.length === 0) return stays!;
  return (game) => {
    for (const test of tests) if (!test(game)) return false;
    return true;
  };
}
