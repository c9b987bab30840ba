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
import { targetOf, type Sample } from './samples';

/** Samples as numbers, packed: millions of them are held at a time. */
export class SampleSet {
  /** Features lie one after the other, the own view of a position before the other's. */
  private features = new Uint16Array(1 << 16);
  /** By sample: where its features begin; one more than there are samples. */
  private starts = new Float64Array(1 << 12);
  private buckets = new Uint8Array(1 << 12);
  private targets = new Float32Array(1 << 12);
  private count = 0;

  /**
   * @param chanceScale hundredths of a pawn by which the odds grow e-fold
   * @param trust how much of the target is the search's score; the rest is the game's result
   */
  constructor(
    private readonly kind: GameKind,
    private readonly chanceScale: number,
    private readonly trust: number,
  ) {}

  add(sample: Sample): void {
    const { own, other, bucket } = see(this.kind, sample.position);
    const at = this.starts[this.count]!;
    const end = at + own.length + other.length;
    if (end > this.features.length) this.features = grown(this.features);
    if (this.count + 2 > this.starts.length) {
      this.starts = grown(this.starts);
      this.buckets = grown(this.buckets);
      this.targets = grown(this.targets);
    }
    this.features.set(own, at);
    this.features.set(other, at + own.length);
    this.buckets[this.count] = bucket;
    this.targets[this.count] = targetOf(sample, this.trust, this.chanceScale);
    this.starts[++this.count] = end;
  }

  get size(): number {
    return this.count;
  }

  featuresOf(index: number): Uint16Array {
    return this.features.subarray(this.starts[index], this.starts[index + 1]);
  }

  bucketOf(index: number): number {
    return this.buckets[index]!;
  }

  /** Expected score of the side to move, 0–1. */
  targetOf(index: number): number {
    return this.targets[index]!;
  }
}

/** An array with what another holds and as much room again. */
function grown<A extends Uint8Array | Uint16Array | Float32Array | Float64Array>(array: A): A {
  const larger = new (array.constructor as new (length: number) => A)(2 * array.length);
  larger.set(array);
  return larger;
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
/** Of both views of a position: one for each piece, at most forty of them. */
const MOST_FEATURES = 80;

/** Trains one network. */
export class Trainer {
  private readonly exports: PassExports;
  private readonly arrays: Record<'first' | 'firstBias' | 'second', Parameters>;
  private readonly secondBias: Float32Array;
  /** The features of the sample that is looked at. */
  private readonly sample: Uint16Array;
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
    const sampleAt = exports.reserve(2 * MOST_FEATURES);
    this.sample = new Uint16Array(exports.memory.buffer, sampleAt, MOST_FEATURES);
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

  private chanceAt(output: number): number {
    return 1 / (1 + Math.exp((-output * OUTPUT_SCALE) / this.chanceScale));
  }

  /** The output for a sample, whose features are brought to where the arithmetic reads them. */
  private forward(set: SampleSet, index: number, mirrored: boolean): number {
    const features = set.featuresOf(index);
    const bucket = set.bucketOf(index);
    this.sample.set(features);
    return (
      this.exports.forward(this.sample.byteOffset, features.length / 2, bucket, mirrored) +
      this.secondBias[bucket]!
    );
  }

  /** Mean squared error of the expected score over a set. */
  errorOf(set: SampleSet): number {
    let sum = 0;
    for (let i = 0; i < set.size; i++)
      sum += (this.chanceAt(this.forward(set, i, false)) - set.targetOf(i)) ** 2;
    return sum / set.size;
  }

  /**
   * Goes over the samples of a set, each epoch in another order and half of the positions in a mirror.
   * @param onEpoch told the error over the epoch's own samples
   */
  train(
    set: SampleSet,
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
          const mirrored = random() < 0.5;
          const output = this.forward(set, index, mirrored);
          const chance = this.chanceAt(output);
          const miss = chance - set.targetOf(index);
          sum += miss * miss;
          const slope = (2 * miss * chance * (1 - chance) * OUTPUT_SCALE) / this.chanceScale;
          const bucket = set.bucketOf(index);
          biasSlope[bucket]! += slope;
          const count = set.featuresOf(index).length / 2;
          exports.backward(this.sample.byteOffset, count, bucket, mirrored, slope);
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
