import { TIME_CLASSES, type TimeClass } from '../game/time-class';
import { RESULTS, type Result } from '../game/result';
import type { Side } from '../game/ruleset';

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
}

const RATED = [null, false, true] as const;
const CLASSES = [null, ...TIME_CLASSES] as const;
/** What is not known, in columns of numbers above it. */
const UNKNOWN = 0;

/** The facts of a base's games, by their numbers, in columns: some twenty bytes each. */
export class FactColumns {
  readonly results: Uint8Array;
  readonly years: Uint16Array;
  readonly timeClasses: Uint8Array;
  readonly rated: Uint8Array;
  readonly ratings: readonly [Uint16Array, Uint16Array];
  /** One more than the player's number. */
  readonly players: readonly [Uint32Array, Uint32Array];
  /** Games that have left the base. */
  readonly gone: Uint8Array;

  constructor(readonly size: number) {
    this.results = new Uint8Array(size);
    this.years = new Uint16Array(size);
    this.timeClasses = new Uint8Array(size);
    this.rated = new Uint8Array(size);
    this.ratings = [new Uint16Array(size), new Uint16Array(size)];
    this.players = [new Uint32Array(size), new Uint32Array(size)];
    this.gone = new Uint8Array(size);
  }

  set(game: number, { result, ratings, players, year, timeClass, rated }: BaseGame): void {
    this.results[game] = RESULTS.indexOf(result);
    this.years[game] = year ?? UNKNOWN;
    this.timeClasses[game] = CLASSES.indexOf(timeClass);
    this.rated[game] = RATED.indexOf(rated);
    for (const side of [0, 1] as const) {
      this.ratings[side][game] = ratings[side] ?? UNKNOWN;
      const player = players[side];
      this.players[side][game] = player === null ? UNKNOWN : player + 1;
    }
  }

  resultOf(game: number): Result {
    return RESULTS[this.results[game]!]!;
  }
}

/** Which games of a base are asked for; what is left out does not matter. */
export interface BaseFilter {
  /** Both ends are included; of the side to move. */
  rating?: readonly [from: number, to: number];
  years?: readonly [from: number, to: number];
  timeClass?: TimeClass;
  rated?: boolean;
  result?: Result;
  /** A player, and the side on which they are to have played; null: either. */
  player?: number;
  side?: Side | null;
}

/** Whether a game suits a filter, at a position where a side is to move; those that have left never do. */
export function suits(
  facts: FactColumns,
  filter: BaseFilter,
  toMove: Side,
): (game: number) => boolean {
  const { rating, years, timeClass, rated, result, player, side = null } = filter;
  const tests: ((game: number) => boolean)[] = [(game) => facts.gone[game] === 0];
  if (rating) {
    const [[from, to], known] = [rating, facts.ratings[toMove]];
    tests.push((game) => known[game] !== UNKNOWN && known[game]! >= from && known[game]! <= to);
  }
  if (years) {
    const [[from, to], known] = [years, facts.years];
    tests.push((game) => known[game] !== UNKNOWN && known[game]! >= from && known[game]! <= to);
  }
  const equal = (column: Uint8Array, wanted: number): void => {
    tests.push((game) => column[game] === wanted);
  };
  if (timeClass !== undefined) equal(facts.timeClasses, CLASSES.indexOf(timeClass));
  if (rated !== undefined) equal(facts.rated, RATED.indexOf(rated));
  if (result !== undefined) equal(facts.results, RESULTS.indexOf(result));
  if (player !== undefined) {
    const [first, second] = facts.players;
    tests.push((game) =>
      side === null
        ? first[game] === player + 1 || second[game] === player + 1
        : facts.players[side][game] === player + 1,
    );
  }
  return (game) => tests.every((test) => test(game));
}
