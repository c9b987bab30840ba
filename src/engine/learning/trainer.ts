import type { GameKind } from '@/core/game/ruleset';
import {
  BUCKETS,
  FEATURE_COUNT,
  HIDDEN,
  mirroredFeature,
  MOST_OUTPUT_WEIGHT,
  OUTPUT_SCALE,
  see,
  type Network,
} from './network';
import type { Sample } from './samples';

/** Samples as numbers: features lie one after the other, the own view of a position before the other's. */
export class SampleSet {
  private readonly features: Uint16Array[] = [];
  readonly buckets: number[] = [];
  /** Expected score of the side to move, 0–1. */
  readonly targets: number[] = [];

  /**
   * @param chanceScale hundredths of a pawn by which the odds grow e-fold
   * @param trust how much of the target is the search's score; the rest is the game's result
   */
  constructor(
    private readonly kind: GameKind,
    private readonly chanceScale: number,
    private readonly trust: number,
  ) {}

  add({ position, score, result }: Sample): void {
    const { own, other, bucket } = see(this.kind, position);
    this.features.push(Uint16Array.from([...own, ...other]));
    this.buckets.push(bucket);
    this.targets.push(
      this.trust / (1 + Math.exp(-score / this.chanceScale)) + (1 - this.trust) * result,
    );
  }

  get size(): number {
    return this.features.length;
  }

  featuresOf(index: number): Uint16Array {
    return this.features[index]!;
  }
}

export interface TrainingPlan {
  epochs: number;
  batch: number;
  /** Step of the first epoch; it falls to nothing over the training. */
  rate: number;
  chanceScale: number;
}

/** Adam (Kingma and Ba 2015) for one array of parameters. */
class Adam {
  readonly gradient: Float32Array;
  private readonly mean: Float32Array;
  private readonly square: Float32Array;

  constructor(
    private readonly values: Float32Array,
    private readonly most: number,
  ) {
    this.gradient = new Float32Array(values.length);
    this.mean = new Float32Array(values.length);
    this.square = new Float32Array(values.length);
  }

  step(rate: number, count: number): void {
    const { values, gradient, mean, square, most } = this;
    const scale = 1 / count;
    for (let i = 0; i < values.length; i++) {
      const slope = gradient[i]! * scale;
      const m = (mean[i] = 0.9 * mean[i]! + 0.1 * slope);
      const v = (square[i] = 0.999 * square[i]! + 0.001 * slope * slope);
      const value = values[i]! - (rate * m) / (Math.sqrt(v) + 1e-8);
      values[i] = value > most ? most : value < -most ? -most : value;
    }
    gradient.fill(0);
  }
}

/** A network of small random weights. */
export function freshNetwork(kind: GameKind, random: () => number): Network {
  const filled = (length: number, spread: number): Float32Array =>
    Float32Array.from({ length }, () => (random() * 2 - 1) * spread);
  return {
    kind,
    first: filled(FEATURE_COUNT[kind] * HIDDEN, 0.12),
    firstBias: new Float32Array(HIDDEN).fill(0.2),
    second: filled(BUCKETS * 2 * HIDDEN, 0.12),
    secondBias: new Float32Array(BUCKETS),
  };
}

/** Computes a network's output for one position after another, and what to change. */
class Pass {
  private readonly acc = new Float32Array(2 * HIDDEN);
  private readonly delta = new Float32Array(2 * HIDDEN);

  constructor(private readonly network: Network) {}

  forward(features: Uint16Array, bucket: number, mirror: Uint16Array | null): number {
    const { acc, network } = this;
    const { first, firstBias, second, secondBias } = network;
    const half = features.length >> 1;
    acc.set(firstBias, 0);
    acc.set(firstBias, HIDDEN);
    for (let i = 0; i < features.length; i++) {
      const row = (mirror ? mirror[features[i]!]! : features[i]!) * HIDDEN;
      const at = i < half ? 0 : HIDDEN;
      for (let unit = 0; unit < HIDDEN; unit++) acc[at + unit]! += first[row + unit]!;
    }
    let output = secondBias[bucket]!;
    const weights = bucket * 2 * HIDDEN;
    for (let unit = 0; unit < 2 * HIDDEN; unit++) {
      const value = acc[unit]! < 0 ? 0 : acc[unit]! > 1 ? 1 : acc[unit]!;
      output += value * value * second[weights + unit]!;
    }
    return output;
  }

  backward(
    features: Uint16Array,
    bucket: number,
    mirror: Uint16Array | null,
    slope: number,
    into: Gradients,
  ): void {
    const { acc, delta, network } = this;
    const weights = bucket * 2 * HIDDEN;
    into.secondBias[bucket]! += slope;
    for (let unit = 0; unit < 2 * HIDDEN; unit++) {
      const value = acc[unit]!;
      if (value <= 0) {
        delta[unit] = 0;
        continue;
      }
      const clipped = value > 1 ? 1 : value;
      into.second[weights + unit]! += slope * clipped * clipped;
      delta[unit] = value >= 1 ? 0 : slope * network.second[weights + unit]! * 2 * value;
    }
    for (let unit = 0; unit < HIDDEN; unit++)
      into.firstBias[unit]! += delta[unit]! + delta[HIDDEN + unit]!;
    const half = features.length >> 1;
    for (let i = 0; i < features.length; i++) {
      const row = (mirror ? mirror[features[i]!]! : features[i]!) * HIDDEN;
      const at = i < half ? 0 : HIDDEN;
      for (let unit = 0; unit < HIDDEN; unit++) into.first[row + unit]! += delta[at + unit]!;
    }
  }
}

type Gradients = Pick<Network, 'first' | 'firstBias' | 'second' | 'secondBias'>;

/** Mean squared error of the expected score over a set. */
export function errorOf(network: Network, set: SampleSet, chanceScale: number): number {
  const pass = new Pass(network);
  let sum = 0;
  for (let i = 0; i < set.size; i++) {
    const output = pass.forward(set.featuresOf(i), set.buckets[i]!, null);
    sum += (1 / (1 + Math.exp((-output * OUTPUT_SCALE) / chanceScale)) - set.targets[i]!) ** 2;
  }
  return sum / set.size;
}

/**
 * Trains a network on samples, each epoch in another order and half of the positions in a mirror.
 * @param onEpoch told the error over the epoch's own samples
 */
export function train(
  network: Network,
  set: SampleSet,
  { epochs, batch, rate, chanceScale }: TrainingPlan,
  random: () => number,
  onEpoch: (epoch: number, error: number) => void,
): void {
  const optimisers = {
    first: new Adam(network.first, 4),
    firstBias: new Adam(network.firstBias, 4),
    second: new Adam(network.second, MOST_OUTPUT_WEIGHT),
    secondBias: new Adam(network.secondBias, 8),
  };
  const gradients: Gradients = {
    first: optimisers.first.gradient,
    firstBias: optimisers.firstBias.gradient,
    second: optimisers.second.gradient,
    secondBias: optimisers.secondBias.gradient,
  };
  const pass = new Pass(network);
  const mirror = Uint16Array.from({ length: FEATURE_COUNT[network.kind] }, (_, feature) =>
    mirroredFeature(network.kind, feature),
  );
  const order = Uint32Array.from({ length: set.size }, (_, index) => index);
  const steps = Math.ceil(set.size / batch) * epochs;
  let step = 0;
  for (let epoch = 0; epoch < epochs; epoch++) {
    for (let i = order.length - 1; i > 0; i--) {
      const other = Math.floor(random() * (i + 1));
      [order[i], order[other]] = [order[other]!, order[i]!];
    }
    let sum = 0;
    for (let from = 0; from < order.length; from += batch) {
      const until = Math.min(order.length, from + batch);
      for (let i = from; i < until; i++) {
        const index = order[i]!;
        const features = set.featuresOf(index);
        const bucket = set.buckets[index]!;
        const turned = random() < 0.5 ? mirror : null;
        const output = pass.forward(features, bucket, turned);
        const chance = 1 / (1 + Math.exp((-output * OUTPUT_SCALE) / chanceScale));
        const miss = chance - set.targets[index]!;
        sum += miss * miss;
        const slope = (2 * miss * chance * (1 - chance) * OUTPUT_SCALE) / chanceScale;
        pass.backward(features, bucket, turned, slope, gradients);
      }
      // a cosine from the full step down to nothing
      const now = rate * 0.5 * (1 + Math.cos((Math.PI * step++) / steps)) + rate * 0.005;
      for (const optimiser of Object.values(optimisers)) optimiser.step(now, until - from);
    }
    onEpoch(epoch + 1, sum / set.size);
  }
}
