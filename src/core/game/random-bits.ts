/**
 * A reproducible source of well-mixed 64-bit numbers (SplitMix64, Steele, Lea and Flood 2014),
 * for the tables behind position keys. Keys are stored, so the seed of a table never changes.
 */
export function splitMix64(seed: bigint): () => bigint {
  let state = seed;
  return () => {
    state = BigInt.asUintN(64, state + 0x9e3779b97f4a7c15n);
    let z = state;
    z = BigInt.asUintN(64, (z ^ (z >> 30n)) * 0xbf58476d1ce4e5b9n);
    z = BigInt.asUintN(64, (z ^ (z >> 27n)) * 0x94d049bb133111ebn);
    return z ^ (z >> 31n);
  };
}

/** `count` random 64-bit numbers as two halves, so that they can be combined without BigInt. */
export function keyTable(seed: bigint, count: number): { low: Int32Array; high: Int32Array } {
  const next = splitMix64(seed);
  const low = new Int32Array(count);
  const high = new Int32Array(count);
  for (let i = 0; i < count; i++) {
    const value = next();
    low[i] = Number(BigInt.asIntN(32, value));
    high[i] = Number(BigInt.asIntN(32, value >> 32n));
  }
  return { low, high };
}

const halves = new Int32Array(2);
const whole = new BigUint64Array(halves.buffer);

/** Joins the two halves of a key into an unsigned 64-bit number. Reckoned with bigints it took four times as long. */
export function joinKey(high: number, low: number): bigint {
  // processors that run this store the lower half first, as WebAssembly does
  halves[0] = low;
  halves[1] = high;
  return whole[0]!;
}
