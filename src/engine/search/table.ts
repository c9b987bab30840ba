/** The transposition table: entries of two words, key XOR data and data, so that a torn entry is never believed. */
let base: usize = 0;
let mask: u64 = 0;
let found: u64 = 0;
let age: u64 = 0;

const ENTRY: usize = 16;
/** Entries of one line of cache, among which the least valuable gives way. */
const BUCKET: i32 = 4;
const AGES: u64 = 7;

/** Uses memory at an address for the table; `bytes`: a power of two, at least 1024. */
export function useTable(address: usize, bytes: u32): void {
  base = address;
  mask = <u64>(bytes / (<u32>ENTRY * BUCKET)) - 1;
}

export function clearTable(): void {
  memory.fill(base, 0, <usize>(mask + 1) * ENTRY * BUCKET);
  age = 0;
}

/** What earlier searches stored gives way sooner. */
export function growOlder(): void {
  age = (age + 1) & AGES;
}

// Data: bits 0–21 move, 22–37 score + 32768, 38–44 depth, 45–46 bound, 47–49 age, 50–63 evaluation + 8192.

export function probe(key: u64): bool {
  const bucket = base + <usize>(key & mask) * ENTRY * BUCKET;
  for (let i = 0; i < BUCKET; i++) {
    const entry = bucket + <usize>i * ENTRY;
    const data = load<u64>(entry, 8);
    if ((load<u64>(entry) ^ data) == key && data != 0) {
      found = data;
      return true;
    }
  }
  return false;
}

export function tableMove(): i32 {
  return <i32>(found & 0x3fffff);
}

export function tableScore(): i32 {
  return <i32>((found >> 22) & 0xffff) - 32768;
}

export function tableDepth(): i32 {
  return <i32>((found >> 38) & 0x7f);
}

export function tableBound(): i32 {
  return <i32>((found >> 45) & 3);
}

export function tableEvaluation(): i32 {
  return <i32>(found >> 50) - 8192;
}

/** A deeper result of the same position is kept unless it is old; else the shallowest and oldest entry gives way. */
export function storeEntry(key: u64, move: i32, score: i32, depth: i32, bound: i32, evaluation: i32): void {
  const bucket = base + <usize>(key & mask) * ENTRY * BUCKET;
  let target = bucket;
  let least: i32 = 1 << 30;
  let best = move;
  for (let i = 0; i < BUCKET; i++) {
    const entry = bucket + <usize>i * ENTRY;
    const data = load<u64>(entry, 8);
    if ((load<u64>(entry) ^ data) == key && data != 0) {
      const kept = (data >> 47) & AGES;
      if (kept == age && <i32>((data >> 38) & 0x7f) > depth + 3 && bound != 1) return;
      if (best == 0) best = <i32>(data & 0x3fffff);
      target = entry;
      break;
    }
    const years = <i32>((age - ((data >> 47) & AGES)) & AGES);
    const worth = data == 0 ? -1000 : <i32>((data >> 38) & 0x7f) - years * 8;
    if (worth < least) {
      least = worth;
      target = entry;
    }
  }
  const data: u64 =
    (<u64>best) |
    ((<u64>(score + 32768)) << 22) |
    ((<u64>max(0, min(depth, 127))) << 38) |
    ((<u64>bound) << 45) |
    (age << 47) |
    ((<u64>(max(-8191, min(8191, evaluation)) + 8192)) << 50);
  store<u64>(target, key ^ data);
  store<u64>(target, data, 8);
}
