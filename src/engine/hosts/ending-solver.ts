import { readFileSync } from 'node:fs';
import type { SliceValues } from './ending-files';
import { valuesName, type Aim } from '@/core/endings/aim';
import {
  FLIPPED,
  freeCount,
  PIECES,
  rowsOf,
  sizeOf,
  waysOf,
  type Slice,
} from '@/core/endings/slice';

interface Exports {
  memory: WebAssembly.Memory;
  release(): void;
  reserve(bytes: number): number;
  begin(
    ...numbers: [
      free: number,
      pawns: number,
      winner: number,
      values0: number,
      values1: number,
      worst0: number,
      worst1: number,
      sets: number,
      rows: number,
    ]
  ): void;
  setMan(man: number, piece: number, side: number, square: number): void;
  addChild(values0: number, values1: number, mixed: number, free: number, paired: boolean): number;
  setChildMan(child: number, place: number, man: number): void;
  setWay(kind: number, mover: number, other: number, child: number): void;
  prepare(): void;
  layer(code: number): number;
  finish(): void;
  slowest(): number;
}

const MOST_CODE = 254;
/** What is told where nothing can be reserved. */
const NO_MEMORY = 2 ** 32 - 1;
/** The solver numbers a king 0, and a pawn last. */
const pieceNumber = (piece: (typeof PIECES)[number]): number => PIECES.indexOf(piece) + 1;

const MOST_BESIDE = 6;
/** Arrays of a byte a position, which rows of 64 positions take while their slice is solved. */
const ARRAYS = 4;
const ARRAY_BYTES = 64;
/** Besides, six sets and a mark. */
const SET_BYTES = 6 * 8 + 1;
/** What a row takes in all. */
export const ROW_BYTES = ARRAYS * ARRAY_BYTES + SET_BYTES;

/** Solves slices of endings, one after the other. */
export class EndingSolver {
  private constructor(private readonly solver: Exports) {}

  static async load(file: string): Promise<EndingSolver> {
    const { instance } = await WebAssembly.instantiate(readFileSync(file), {
      env: {
        abort: (): never => {
          throw new Error('the solver stopped');
        },
      },
    });
    return new EndingSolver(instance.exports as unknown as Exports);
  }

  /**
   * All values of a slice.
   * @param known values of the slices that its moves lead to, by {@link valuesName}
   * @throws Error where one is missing and all is to be exact, there are more than six men beside the kings, or a win takes more than 253 plies
   */
  solve(slice: Slice, known: ReadonlyMap<string, SliceValues>, aim: Aim = 'exact'): SliceValues {
    if (slice.men.length > MOST_BESIDE) throw new Error(`${slice.key}: too many men`);
    const { solver } = this;
    solver.release();
    const reserve = (bytes: number): number => {
      // addresses are unsigned
      const at = solver.reserve(bytes) >>> 0;
      if (at === NO_MEMORY) throw new Error(`${slice.key}: there is not enough memory`);
      return at;
    };
    const size = sizeOf(slice);
    const free = freeCount(slice);
    const rows = rowsOf(slice);
    const places = Array.from({ length: ARRAYS }, () => reserve(ARRAY_BYTES * rows)) as [
      number,
      number,
      number,
      number,
    ];
    const sets = reserve(SET_BYTES * rows);
    const winner = aim === 'exact' ? 0 : 1 - aim;
    solver.begin(free, slice.men.length - free, winner, ...places, sets, rows);
    slice.men.forEach(({ piece, side, square }, at) =>
      solver.setMan(at + 2, pieceNumber(piece), side, square ?? 0),
    );
    const stored = new Map<string, [number, number]>();
    const keep = (name: string): [number, number] => {
      const before = stored.get(name);
      if (before) return before;
      const values = known.get(name);
      if (!values && aim === 'exact') throw new Error(`${slice.key}: ${name} is not known`);
      const at = (values ?? []).map((some) => {
        const to = reserve(some.length);
        new Uint8Array(solver.memory.buffer).set(some, to);
        return to;
      });
      const kept: [number, number] = [at[0] ?? 0, at[1] ?? 0];
      stored.set(name, kept);
      return kept;
    };
    const children = new Map<string, number>();
    for (const { kind, mover, other, placing } of waysOf(slice)) {
      if (!placing) continue;
      const kings = placing.mixed & FLIPPED ? [1, 0] : [0, 1];
      const men = [...kings, ...placing.from.slice(0, freeCount(placing.slice))];
      const name = `${placing.slice.key} ${placing.mixed} ${men.join(' ')}`;
      let child = children.get(name);
      if (child === undefined) {
        const isPaired = placing.slice.men.every(({ piece }) => piece !== 'P');
        child = solver.addChild(
          ...keep(valuesName(placing.slice.key, aim, placing.mixed)),
          placing.mixed,
          men.length - 2,
          isPaired,
        );
        if (child < 0) throw new Error(`${slice.key}: too many ways out`);
        for (const [place, man] of men.entries()) solver.setChildMan(child, place, man);
        children.set(name, child);
      }
      solver.setWay(kind, mover, other, child);
    }
    solver.prepare();
    for (let code = 1; solver.layer(code); code++);
    solver.finish();
    if (solver.slowest() > MOST_CODE) throw new Error(`${slice.key}: a win takes too long`);
    const memory = new Uint8Array(solver.memory.buffer);
    return [taken(memory, places[2], size), taken(memory, places[3], size)];
  }
}

/** A copy that other threads can see. */
function taken(memory: Uint8Array, from: number, size: number): Uint8Array {
  const values = new Uint8Array(new SharedArrayBuffer(size));
  values.set(memory.subarray(from, from + size));
  return values;
}
