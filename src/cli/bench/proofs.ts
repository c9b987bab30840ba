import { rm } from 'node:fs/promises';
import { availableParallelism, totalmem } from 'node:os';
import type { ChessPosition } from '@/core/chess/position';
import { chess } from '@/core/chess/ruleset';
import { worthOf, worthOfMoves } from '@/core/endings/exact';
import { PositionError } from '@/core/game/ruleset';
import { randomSource } from '@/engine/draw';
import { EndingFiles } from '@/engine/hosts/ending-files';
import { planProof } from '@/engine/hosts/ending-plan';
import { proveAs } from '@/engine/hosts/ending-proof';
import { ENDING_SOLVER } from '../engine-files';
import { report } from './figures';
import { proofFolder } from './proof-folder';
import { quantile } from './server';

const COUNT = 20;
/** Positions that are solved where pawns have become something else, at most. */
const BUDGET = 200e6;
const SEED = 16;

/** What it takes to prove pawn endings, beside the tables of the data folder: half of them with passed pawns on both sides. */
export async function benchProofs(count = COUNT): Promise<void> {
  for (const pawns of [2, 3]) {
    const random = randomSource(SEED + pawns);
    const until: { certain: number[]; end: number[] } = { certain: [], end: [] };
    let beyond = 0;
    let positions = 0;
    let certain = 0;
    let moves = 0;
    let sure = 0;
    for (let at = 0; at < count; at++) {
      const position = drawn(random, pawns, at % 2 === 0);
      const folder = await proofFolder();
      try {
        const threads = availableParallelism();
        const started = performance.now();
        const plan = await planProof(position, folder, threads, totalmem());
        if (!plan) {
          beyond++;
          continue;
        }
        positions++;
        let known = Infinity;
        await proveAs(plan, position, ENDING_SOLVER, {
          folder,
          threads,
          budget: BUDGET,
          signal: new AbortController().signal,
          onProgress: (_, { least, most }) => {
            if (least === most) known = Math.min(known, performance.now() - started);
          },
        });
        until.end.push((performance.now() - started) / 1000);
        const tables = new EndingFiles(folder);
        const { least, most } = worthOf(position, tables);
        const all = worthOfMoves(position, tables);
        tables.close();
        if (least === most) {
          certain++;
          until.certain.push(Math.min(known, performance.now() - started) / 1000);
        } else until.certain.push(Infinity);
        moves += all.length;
        sure += all.filter(({ worth }) => worth.least === worth.most).length;
      } finally {
        await rm(folder, { recursive: true, force: true });
      }
    }
    const seconds = (some: number[]): string =>
      some.length === 0
        ? '–'
        : [0.5, 0.9]
            .map((part) => quantile(some, part))
            .map((value) => (value === Infinity ? 'never' : value.toFixed(1)))
            .join(' / ');
    report(
      `pawn endings, ${pawns} against ${pawns}: p50 / p90 until the result is certain`,
      `${seconds(until.certain)} s; ${certain} of ${positions} certain, ${sure} of ${moves} first moves; ${beyond} out of reach`,
    );
    report('until all first moves are, or the budget is spent', `${seconds(until.end)} s`);
  }
}

/** A position with so many pawns a side, between the second rows of both. @param isOpen with a passed pawn of each side */
function drawn(random: () => number, pawns: number, isOpen: boolean): ChessPosition {
  for (;;) {
    const squares = new Map<number, string>();
    const put = (letter: string, from: number, count: number): void => {
      for (let at = 0; at < count;) {
        const square = from + Math.floor(random() * (64 - 2 * from));
        if (squares.has(square)) continue;
        squares.set(square, letter);
        at++;
      }
    };
    put('P', 8, pawns);
    put('p', 8, pawns);
    put('K', 0, 1);
    put('k', 0, 1);
    const rows = Array.from({ length: 8 }, (_, row) =>
      Array.from({ length: 8 }, (_, file) => squares.get((7 - row) * 8 + file) ?? '1').join(''),
    );
    const isPassed = (side: 'P' | 'p'): boolean =>
      [...squares].some(
        ([square, letter]) =>
          letter === side &&
          ![...squares].some(
            ([other, by]) =>
              by === (side === 'P' ? 'p' : 'P') &&
              Math.abs((other & 7) - (square & 7)) <= 1 &&
              (side === 'P' ? other >> 3 > square >> 3 : other >> 3 < square >> 3),
          ),
      );
    if (isOpen !== (isPassed('P') && isPassed('p'))) continue;
    try {
      const position = chess.start(`${rows.join('/')} w - - 0 1`);
      if (chess.moves(position).length > 0) return position;
    } catch (error) {
      if (!(error instanceof PositionError)) throw error;
    }
  }
}
