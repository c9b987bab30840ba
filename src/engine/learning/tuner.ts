import type { GameKind } from '@/core/game/ruleset';
import type { SearchModule } from '../search-module';
import { TERM_GROUPS, type TermWeights } from '../terms';
import { targetOf, type Sample } from './samples';

/** A position as a weighted sum: which terms count, how often, and how far the game has gone. */
interface Row {
  terms: Uint16Array;
  counts: Int8Array;
  phase: number;
  /** Expected score of side 0, 0–1. */
  target: number;
}

/** Reads positions into rows of the linear evaluation. */
export function rowOf(
  module: SearchModule,
  sample: Sample,
  trust: number,
  chanceScale: number,
): Row {
  const { phase, counts } = module.explain(sample.position);
  const terms: number[] = [];
  for (let term = 0; term < counts.length; term++) if (counts[term] !== 0) terms.push(term);
  const own = targetOf(sample, trust, chanceScale);
  const first = sample.position.split(' ')[1] === (module.kind === 'chess' ? 'w' : 'b');
  return {
    terms: Uint16Array.from(terms),
    counts: Int8Array.from(terms, (term) => counts[term]!),
    phase,
    target: first ? own : 1 - own,
  };
}

export interface TuningPlan {
  epochs: number;
  batch: number;
  /** Hundredths of a pawn by which a weight may move in a step. */
  rate: number;
  chanceScale: number;
}

/** Weights by term: early, then late. */
const flatten = (kind: GameKind, weights: TermWeights, terms: number): Float64Array => {
  const flat = new Float64Array(2 * terms);
  for (const { name, first } of TERM_GROUPS[kind])
    weights[name]!.forEach(([early, late], index) => {
      flat[2 * (first + index)] = early;
      flat[2 * (first + index) + 1] = late;
    });
  return flat;
};

const valueOf = ({ terms, counts, phase }: Row, flat: Float64Array): number => {
  let value = 0;
  for (let i = 0; i < terms.length; i++) {
    const at = 2 * terms[i]!;
    value += counts[i]! * (flat[at]! * phase + flat[at + 1]! * (1 - phase));
  }
  return value;
};

const chanceAt = (value: number, scale: number): number => 1 / (1 + Math.exp(-value / scale));

const TERMS = 1024;

/** Mean squared error of the expected score. */
export function tuningError(
  kind: GameKind,
  rows: readonly Row[],
  weights: TermWeights,
  chanceScale: number,
): number {
  const flat = flatten(kind, weights, TERMS);
  let sum = 0;
  for (const row of rows) sum += (chanceAt(valueOf(row, flat), chanceScale) - row.target) ** 2;
  return sum / rows.length;
}

/** Moves the weights of the readable evaluation down the slope of the error (Adam); starts from those given. */
export function tune(
  kind: GameKind,
  rows: readonly Row[],
  start: TermWeights,
  { epochs, batch, rate, chanceScale }: TuningPlan,
  random: () => number,
): TermWeights {
  const flat = flatten(kind, start, TERMS);
  const mean = new Float64Array(flat.length);
  const square = new Float64Array(flat.length);
  const slope = new Float64Array(flat.length);
  const order = Uint32Array.from(rows, (_, index) => index);
  const steps = Math.ceil(rows.length / batch) * epochs;
  let step = 0;
  for (let epoch = 0; epoch < epochs; epoch++) {
    for (let i = order.length - 1; i > 0; i--) {
      const other = Math.floor(random() * (i + 1));
      [order[i], order[other]] = [order[other]!, order[i]!];
    }
    for (let from = 0; from < order.length; from += batch) {
      const until = Math.min(order.length, from + batch);
      slope.fill(0);
      for (let i = from; i < until; i++) {
        const row = rows[order[i]!]!;
        const chance = chanceAt(valueOf(row, flat), chanceScale);
        const change = (chance - row.target) * chance * (1 - chance);
        for (let k = 0; k < row.terms.length; k++) {
          const at = 2 * row.terms[k]!;
          const share = change * row.counts[k]!;
          slope[at]! += share * row.phase;
          slope[at + 1]! += share * (1 - row.phase);
        }
      }
      const now = rate * (1 - step++ / steps);
      for (let i = 0; i < flat.length; i++) {
        if (slope[i] === 0 && mean[i] === 0) continue;
        mean[i] = 0.9 * mean[i]! + 0.1 * slope[i]!;
        square[i] = 0.999 * square[i]! + 0.001 * slope[i]! * slope[i]!;
        flat[i]! -= (now * mean[i]!) / (Math.sqrt(square[i]!) + 1e-9);
      }
    }
  }
  return Object.fromEntries(
    TERM_GROUPS[kind].map(({ name, first, size }) => [
      name,
      Array.from(
        { length: size },
        (_, index) =>
          [
            Math.round(flat[2 * (first + index)]!),
            Math.round(flat[2 * (first + index) + 1]!),
          ] as const,
      ),
    ]),
  );
}
