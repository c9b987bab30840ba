/**
 * The arithmetic of training a network, for src/engine/learning/trainer.ts: one position forward and back, and one
 * step of all parameters. Arrays are told by their addresses; numbers are 32-bit floats.
 */
const HIDDEN: i32 = 128;
const VIEW: usize = 4 * 128;

let first: usize = 0;
let firstBias: usize = 0;
let second: usize = 0;
let firstSlope: usize = 0;
let firstBiasSlope: usize = 0;
let secondSlope: usize = 0;
/** By feature: the one of the mirrored board, as 16-bit numbers. */
let mirror: usize = 0;

const hidden: usize = (heap.alloc(2 * VIEW + 16) + 15) & ~15;
const change: usize = (heap.alloc(2 * VIEW + 16) + 15) & ~15;

export function reserve(bytes: u32): usize {
  return (heap.alloc(bytes + 16) + 15) & ~15;
}

export function useNetwork(weights: usize, bias: usize, outputs: usize): void {
  first = weights;
  firstBias = bias;
  second = outputs;
}

export function useSlopes(weights: usize, bias: usize, outputs: usize): void {
  firstSlope = weights;
  firstBiasSlope = bias;
  secondSlope = outputs;
}

export function useMirror(table: usize): void {
  mirror = table;
}

// @ts-ignore: decorator
@inline function rowAt(features: usize, index: i32, mirrored: bool): usize {
  const feature = <usize>load<u16>(features + (<usize>index << 1));
  return (mirrored ? <usize>load<u16>(mirror + (feature << 1)) : feature) * VIEW;
}

/** The output without its bias; `count` features of the own view, then as many of the other. */
export function forward(features: usize, count: i32, bucket: i32, mirrored: bool): f32 {
  memory.copy(hidden, firstBias, VIEW);
  memory.copy(hidden + VIEW, firstBias, VIEW);
  for (let i = 0; i < 2 * count; i++) {
    const row = first + rowAt(features, i, mirrored);
    const values = i < count ? hidden : hidden + VIEW;
    for (let at: usize = 0; at < VIEW; at += 16)
      v128.store(values + at, f32x4.add(v128.load(values + at), v128.load(row + at)));
  }
  const weights = second + <usize>bucket * 2 * VIEW;
  let sum = f32x4.splat(0);
  const none = f32x4.splat(0);
  const most = f32x4.splat(1);
  for (let at: usize = 0; at < 2 * VIEW; at += 16) {
    const value = f32x4.min(f32x4.max(v128.load(hidden + at), none), most);
    sum = f32x4.add(sum, f32x4.mul(f32x4.mul(value, value), v128.load(weights + at)));
  }
  return (
    f32x4.extract_lane(sum, 0) + f32x4.extract_lane(sum, 1) + f32x4.extract_lane(sum, 2) + f32x4.extract_lane(sum, 3)
  );
}

/** Adds what the position that was last sent forward says of every parameter; `slope`: of its output. */
export function backward(features: usize, count: i32, bucket: i32, mirrored: bool, slope: f32): void {
  const weights = second + <usize>bucket * 2 * VIEW;
  const outputs = secondSlope + <usize>bucket * 2 * VIEW;
  const none = f32x4.splat(0);
  const most = f32x4.splat(1);
  const by = f32x4.splat(slope);
  const twice = f32x4.splat(2 * slope);
  for (let at: usize = 0; at < 2 * VIEW; at += 16) {
    const raw = v128.load(hidden + at);
    const value = f32x4.min(f32x4.max(raw, none), most);
    v128.store(
      outputs + at,
      f32x4.add(v128.load(outputs + at), f32x4.mul(by, f32x4.mul(value, value))),
    );
    const live = v128.and(f32x4.gt(raw, none), f32x4.lt(raw, most));
    v128.store(
      change + at,
      v128.and(live, f32x4.mul(twice, f32x4.mul(value, v128.load(weights + at)))),
    );
  }
  for (let at: usize = 0; at < VIEW; at += 16)
    v128.store(
      firstBiasSlope + at,
      f32x4.add(
        v128.load(firstBiasSlope + at),
        f32x4.add(v128.load(change + at), v128.load(change + VIEW + at)),
      ),
    );
  for (let i = 0; i < 2 * count; i++) {
    const row = firstSlope + rowAt(features, i, mirrored);
    const values = i < count ? change : change + VIEW;
    for (let at: usize = 0; at < VIEW; at += 16)
      v128.store(row + at, f32x4.add(v128.load(row + at), v128.load(values + at)));
  }
}

/** One step of Adam (Kingma and Ba 2015) for `count` parameters, a multiple of four; their slopes are cleared.
 * Values shrink by `decay` a unit of the rate (decoupled weight decay, Loshchilov and Hutter 2019). */
export function step(values: usize, slopes: usize, means: usize, squares: usize, count: i32, rate: f32, scale: f32, most: f32, decay: f32): void {
  const zero = f32x4.splat(0);
  for (let at: usize = 0; at < <usize>count << 2; at += 16) {
    const slope = f32x4.mul(v128.load(slopes + at), f32x4.splat(scale));
    const mean = f32x4.add(f32x4.mul(v128.load(means + at), f32x4.splat(0.9)), f32x4.mul(slope, f32x4.splat(0.1)));
    const square = f32x4.add(
      f32x4.mul(v128.load(squares + at), f32x4.splat(0.999)),
      f32x4.mul(f32x4.mul(slope, slope), f32x4.splat(0.001)),
    );
    const change = f32x4.div(
      f32x4.mul(mean, f32x4.splat(rate)),
      f32x4.add(f32x4.sqrt(square), f32x4.splat(1e-8)),
    );
    const kept = f32x4.mul(v128.load(values + at), f32x4.splat(1 - rate * decay));
    const value = f32x4.sub(kept, change);
    v128.store(values + at, f32x4.max(f32x4.min(value, f32x4.splat(most)), f32x4.splat(-most)));
    v128.store(means + at, mean);
    v128.store(squares + at, square);
    v128.store(slopes + at, zero);
  }
}
