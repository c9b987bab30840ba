import { HIDDEN, hiddenLayer, useLayer, VIEW_BYTES } from './features';
import { FEATURE_COUNT, outputBucket, side } from './rules';

/**
 * The learned evaluation: one hidden layer for each side's view of the position, their values clipped and squared,
 * and one output for each phase of the game. All numbers are 16-bit integers: docs/engine.md has the scales.
 */
const BUCKETS: i32 = 4;
const CLIP: i32 = 255;
const OUTPUT_UNIT: i32 = 64;
/** Hundredths of a pawn for an output of 1. */
const SCALE: i32 = 400;

let outputs: usize = 0;
let outputBiases: usize = 0;

export function networkBytes(): i32 {
  return FEATURE_COUNT * HIDDEN * 2 + HIDDEN * 2 + BUCKETS * HIDDEN * 4 + BUCKETS * 4;
}

/** Uses the weights at an address (first layer, its biases, outputs, their biases); 0: no network. */
export function useNetwork(address: usize): void {
  if (address == 0) {
    outputs = 0;
    useLayer(0, 0);
    return;
  }
  const layerBiases = address + <usize>(FEATURE_COUNT * HIDDEN * 2);
  outputs = layerBiases + <usize>(HIDDEN * 2);
  outputBiases = outputs + <usize>(BUCKETS * HIDDEN * 4);
  useLayer(address, layerBiases);
}

// @ts-ignore: decorator
@inline export function hasNetwork(): bool {
  return outputs != 0;
}

/** Eight values, clipped, squared and weighted, as four sums. A weight is at most 127, so that its product with a clipped value fits into 16 bits. */
// @ts-ignore: decorator
@inline function weighted(values: v128, weights: v128, none: v128, most: v128): v128 {
  const clipped = i16x8.min_s(i16x8.max_s(values, none), most);
  return i32x4.dot_i16x8_s(clipped, i16x8.mul(clipped, weights));
}

/** Hundredths of a pawn from the view of the side to move. */
export function evaluateByNetwork(): i32 {
  const bucket = outputBucket();
  const views = hiddenLayer();
  let own = views + <usize>side * VIEW_BYTES;
  let other = views + <usize>(1 - side) * VIEW_BYTES;
  // the other view's weights lie behind the own
  let row = outputs + <usize>bucket * VIEW_BYTES * 2;
  const end = row + VIEW_BYTES;
  const none = i16x8.splat(0);
  const most = i16x8.splat(<i16>CLIP);
  let sum = i32x4.splat(0);
  let otherSum = i32x4.splat(0);
  for (; row < end; own += 32, other += 32, row += 32) {
    const first = weighted(v128.load(own), v128.load(row), none, most);
    const second = weighted(v128.load(own, 16), v128.load(row, 16), none, most);
    const third = weighted(v128.load(other), v128.load(row, VIEW_BYTES), none, most);
    const fourth = weighted(v128.load(other, 16), v128.load(row, VIEW_BYTES + 16), none, most);
    sum = i32x4.add(sum, i32x4.add(first, second));
    otherSum = i32x4.add(otherSum, i32x4.add(third, fourth));
  }
  sum = i32x4.add(sum, otherSum);
  const total: i64 =
    <i64>i32x4.extract_lane(sum, 0) +
    <i64>i32x4.extract_lane(sum, 1) +
    <i64>i32x4.extract_lane(sum, 2) +
    <i64>i32x4.extract_lane(sum, 3);
  const value = total / CLIP + <i64>load<i32>(outputBiases + (<usize>bucket << 2));
  return max(-8000, min(8000, <i32>((value * SCALE) / (CLIP * OUTPUT_UNIT))));
}
