import { HIDDEN, useLayer } from './features';
import { FEATURE_COUNT, hiddenLayer, outputBucket, side } from './rules';

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

/** Hundredths of a pawn from the view of the side to move. */
export function evaluateByNetwork(): i32 {
  const bucket = outputBucket();
  const bytes: usize = 2 * <usize>HIDDEN;
  const views = hiddenLayer();
  const own = views + <usize>side * bytes;
  const other = views + <usize>(1 - side) * bytes;
  const weights = outputs + <usize>bucket * bytes * 2;
  const none = i16x8.splat(0);
  const most = i16x8.splat(<i16>CLIP);
  let sum = i32x4.splat(0);
  for (let at: usize = 0; at < bytes; at += 16) {
    const a = i16x8.min_s(i16x8.max_s(v128.load(own + at), none), most);
    const b = i16x8.min_s(i16x8.max_s(v128.load(other + at), none), most);
    // a weight is at most 127, so that its product with a clipped value fits into 16 bits
    sum = i32x4.add(sum, i32x4.dot_i16x8_s(a, i16x8.mul(a, v128.load(weights + at))));
    sum = i32x4.add(sum, i32x4.dot_i16x8_s(b, i16x8.mul(b, v128.load(weights + bytes + at))));
  }
  const total: i64 =
    <i64>i32x4.extract_lane(sum, 0) +
    <i64>i32x4.extract_lane(sum, 1) +
    <i64>i32x4.extract_lane(sum, 2) +
    <i64>i32x4.extract_lane(sum, 3);
  const value = total / CLIP + <i64>load<i32>(outputBiases + (<usize>bucket << 2));
  return max(-8000, min(8000, <i32>((value * SCALE) / (CLIP * OUTPUT_UNIT))));
}
