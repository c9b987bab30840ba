import type { ChessPosition } from '@/core/chess/position';
import { placeIn } from '@/core/endings/exact';
import {
  positionsOf,
  promotes,
  rowsOf,
  waysOut,
  type Slice,
  type WayKind,
} from '@/core/endings/slice';
import { DamagedEnding, EndingFiles } from './ending-files';
import { ROW_BYTES } from './ending-solver';

/** What it takes to know some slices exactly. */
export interface Reach {
  /** All slices that can be reached from them, themselves among them, whose values no file has. */
  slices: Slice[];
  /** Of both sides to move. */
  positions: number;
  /** Of memory, at most. */
  bytes: number;
}

/** Beyond what nothing is begun. */
export interface Limits {
  slices: number;
  /** Of both sides to move. */
  positions: number;
}

/** Slices after which others get their turn. */
const TURN = 50;
const turn = (): Promise<void> => new Promise((next) => setImmediate(next));

/**
 * What has to be solved before some slices are known; null where that is beyond the limits, which is found out soon.
 * @param follows whether what a move leads to has to be known too
 */
export async function reachOf(
  wanted: readonly Slice[],
  folder: string,
  threads: number,
  limits: Limits = { slices: 50_000, positions: Infinity },
  follows: (way: WayKind) => boolean = () => true,
): Promise<Reach | null> {
  const tables = new EndingFiles(folder);
  try {
    const found = new Map<string, Slice>();
    const children = new Map<string, Slice>();
    const needs: number[] = [];
    const open = [...wanted];
    let positions = 0;
    for (let next = open.pop(); next; next = open.pop()) {
      if (found.has(next.key) || isThere(tables, next)) continue;
      positions += positionsOf([next]);
      if (found.size === limits.slices || positions > limits.positions) return null;
      found.set(next.key, next);
      const own = childrenOf(next, follows);
      for (const child of own) children.set(child.key, child);
      needs.push(needOf(next, own));
      open.push(...own);
      if (found.size % TURN === 0) await turn();
    }
    // the largest with all that their moves lead to, one a thread, and what waits for others
    needs.sort((one, other) => other - one);
    const together = needs.slice(0, threads).reduce((sum, need) => sum + need, 0);
    const known = positionsOf([...children.values()]);
    const bytes = Math.min(together + known, Math.max((needs[0] ?? 0) + known, MOST_BYTES));
    return { slices: [...found.values()], positions, bytes };
  } finally {
    tables.close();
  }
}

/** Bytes that solving a slice takes: its own, and those of all that its moves lead to. */
export const needOf = (slice: Slice, children: readonly Slice[]): number =>
  ROW_BYTES * rowsOf(slice) + positionsOf(children);

/** Threads don't begin a slice as long as with it they would take more than this: a single one may. */
export const MOST_BYTES = 2.7e9;

/** Whether a file has a slice; one that is damaged is taken away. */
function isThere(tables: EndingFiles, slice: Slice): boolean {
  try {
    return tables.has(slice);
  } catch (error) {
    if (!(error instanceof DamagedEnding)) throw error;
    tables.remove(error);
    return false;
  }
}

/** The slices that moves lead to, each once. */
export const childrenOf = (
  slice: Slice,
  follows: (way: WayKind) => boolean = () => true,
): Slice[] => [
  ...new Map(
    waysOut(slice, follows).flatMap(({ placing }) =>
      placing ? [[placing.slice.key, placing.slice] as const] : [],
    ),
  ).values(),
];

/** How a position can be proved: with all that can be reached from it, or with bounds where a pawn becomes something else. */
export interface ProofPlan {
  how: 'exact' | 'bounds';
  reach: Reach;
  /** Of work for one thread, about. */
  seconds: number;
}

/** Positions that a thread solves in a second, and what each slice takes besides, about. */
const RATE = 4_500_000;
const SLICE_SECONDS = 0.002;

/** What is solved exactly takes some minutes at most; the plain moves of a proof in bounds likewise. */
const MOST_EXACT = { slices: 2000, positions: 2.5e9 };
const MOST_BOUNDED = { slices: 20_000, positions: 1e9 };

const secondsFor = (slices: number, positions: number): number =>
  Math.max(positions / RATE, slices * SLICE_SECONDS);

/** How a position can be proved; null where it is out of reach, as where it is in tables, or somebody may still castle. */
export async function planProof(
  position: ChessPosition,
  folder: string,
  threads: number,
  memory: number,
): Promise<ProofPlan | null> {
  const place = position.castling === 0 ? placeIn(position) : null;
  if (place === null || place === 'kings alone') return null;
  const exact = await reachOf([place.slice], folder, threads, MOST_EXACT);
  if (exact && exact.slices.length === 0) return null;
  if (exact && exact.bytes < memory)
    return {
      how: 'exact',
      reach: exact,
      seconds: secondsFor(exact.slices.length, exact.positions) / threads,
    };
  const bounded = await reachOf([place.slice], folder, threads, MOST_BOUNDED, isPlain);
  if (!bounded || bounded.bytes + 2 * bounded.positions > memory) return null;
  return {
    how: 'bounds',
    reach: bounded,
    seconds: secondsFor(2 * bounded.slices.length, 2 * bounded.positions) / threads,
  };
}

/** Whether a move leaves every pawn what it is. */
export const isPlain = (way: WayKind): boolean => !promotes(way);
