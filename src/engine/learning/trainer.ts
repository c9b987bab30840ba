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
  /** How readily weights that are not called for shrink; the fewer the samples, the more. */
  decay: number;
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

/** What the compiled arithmetic exports; see src/engine/training/pass.ts. */
interface PassExports {
  memory: WebAssembly.Memory;
  reserve(bytes: number): number;
  useNetwork(weights: number, bias: number, outputs: number): void;
  useSlopes(weights: number, bias: number, outputs: number): void;
  useMirror(table: number): void;
  forward(features: number, count: number, bucket: number, mirrored: boolean): number;
  backward(features: number, count: number, bucket: number, mirrored: boolean, slope: number): void;
  step(
    values: number,
    slopes: number,
    means: number,
    squares: number,
    count: number,
    rate: number,
    scale: number,
    most: number,
    decay: number,
  ): void;
}

/** An array of parameters in the memory of the arithmetic, with what Adam keeps of each. */
interface Parameters {
  values: number;
  slopes: number;
  means: number;
  squares: number;
  length: number;
  /** No value goes beyond it. */
  most: number;
}

const MOST_WEIGHT = 8;

/** Trains one network. */
export class Trainer {
  private readonly exports: PassExports;
  private readonly arrays: Record<'first' | 'firstBias' | 'second', Parameters>;
  private readonly secondBias: Float32Array;
  private readonly kind: GameKind;

  /** @param module the compiled arithmetic, dist/engine/training.wasm */
  constructor(
    module: WebAssembly.Module,
    start: Network,
    private readonly chanceScale: number,
  ) {
    this.kind = start.kind;
    this.exports = new WebAssembly.Instance(module, {
      env: {
        abort: () => {
          throw new Error('training failed');
        },
      },
    }).exports as unknown as PassExports;
    const { exports } = this;
    this.arrays = {
      first: this.place(start.first, MOST_WEIGHT),
      firstBias: this.place(start.firstBias, MOST_WEIGHT),
      second: this.place(start.second, MOST_OUTPUT_WEIGHT),
    };
    this.secondBias = start.secondBias.slice();
    const { first, firstBias, second } = this.arrays;
    exports.useNetwork(first.values, firstBias.values, second.values);
    exports.useSlopes(first.slopes, firstBias.slopes, second.slopes);
    const mirror = Uint16Array.from({ length: FEATURE_COUNT[this.kind] }, (_, feature) =>
      mirroredFeature(this.kind, feature),
    );
    const at = exports.reserve(mirror.byteLength);
    new Uint16Array(exports.memory.buffer, at, mirror.length).set(mirror);
    exports.useMirror(at);
  }

  private place(values: Float32Array, most: number): Parameters {
    const addresses = [0, 1, 2, 3].map(() => this.exports.reserve(values.byteLength));
    for (const address of addresses)
      new Float32Array(this.exports.memory.buffer, address, values.length).fill(0);
    new Float32Array(this.exports.memory.buffer, addresses[0], values.length).set(values);
    const [at, slopes, means, squares] = addresses as [number, number, number, number];
    return { values: at, slopes, means, squares, length: values.length, most };
  }

  private read({ values, length }: Parameters): Float32Array {
    return new Float32Array(this.exports.memory.buffer, values, length).slice();
  }

  get network(): Network {
    const { first, firstBias, second } = this.arrays;
    return {
      kind: this.kind,
      first: this.read(first),
      firstBias: this.read(firstBias),
      second: this.read(second),
      secondBias: this.secondBias.slice(),
    };
  }

  /** Copies the features of a set to where the arithmetic reads them; returns the address of each sample's. */
  load(set: SampleSet): Float64Array {
    let bytes = 0;
    for (let i = 0; i < set.size; i++) bytes += set.featuresOf(i).byteLength;
    let at = this.exports.reserve(bytes);
    const memory = new Uint16Array(this.exports.memory.buffer);
    return Float64Array.from({ length: set.size }, (_, index) => {
      const features = set.featuresOf(index);
      memory.set(features, at / 2);
      const here = at;
      at += features.byteLength;
      return here;
    });
  }

  private chanceAt(output: number): number {
    return 1 / (1 + Math.exp((-output * OUTPUT_SCALE) / this.chanceScale));
  }

  /** Mean squared error of the expected score over a set that was loaded. */
  errorOf(set: SampleSet, addresses: Float64Array): number {
    let sum = 0;
    for (let i = 0; i < set.size; i++) {
      const bucket = set.buckets[i]!;
      const count = set.featuresOf(i).length / 2;
      const output =
        this.exports.forward(addresses[i]!, count, bucket, false) + this.secondBias[bucket]!;
      sum += (this.chanceAt(output) - set.targets[i]!) ** 2;
    }
    return sum / set.size;
  }

  /**
   * Goes over the samples of a set that was loaded, each epoch in another order and half of the positions in a mirror.
   * @param onEpoch told the error over the epoch's own samples
   */
  train(
    set: SampleSet,
    addresses: Float64Array,
    { epochs, batch, rate, decay }: TrainingPlan,
    random: () => number,
    onEpoch: (epoch: number, error: number) => void,
  ): void {
    const { exports, secondBias } = this;
    const biasSlope = new Float64Array(BUCKETS);
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
        biasSlope.fill(0);
        for (let i = from; i < until; i++) {
          const index = order[i]!;
          const at = addresses[index]!;
          const bucket = set.buckets[index]!;
          const count = set.featuresOf(index).length / 2;
          const mirrored = random() < 0.5;
          const output = exports.forward(at, count, bucket, mirrored) + secondBias[bucket]!;
          const chance = this.chanceAt(output);
          const miss = chance - set.targets[index]!;
          sum += miss * miss;
          const slope = (2 * miss * chance * (1 - chance) * OUTPUT_SCALE) / this.chanceScale;
          biasSlope[bucket]! += slope;
          exports.backward(at, count, bucket, mirrored, slope);
        }
        // a cosine from the full step down to nothing
        const now = rate * (0.5 * (1 + Math.cos((Math.PI * step++) / steps)) + 0.005);
        for (const { values, slopes, means, squares, length, most } of Object.values(this.arrays))
          exports.step(
            values,
            slopes,
            means,
            squares,
            length,
            now,
            1 / (until - from),
            most,
            decay,
          );
        for (let bucket = 0; bucket < BUCKETS; bucket++)
          secondBias[bucket]! -= (now * biasSlope[bucket]!) / (until - from);
      }
      onEpoch(epoch + 1, sum / set.size);
    }
  }
}
