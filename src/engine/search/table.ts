/**
 * The transposition table: entries of two words, key XOR data and data, so that a torn entry is never believed. The
 * many shallow results go to a small part of it that stays near the processor; each thread has its own. They need no
 * place in the large part, whose memory is slow, and push nothing deep out of it.
 */
let base: usize = 0;
let mask: u64 = 0;
let found: u64 = 0;
let age: u64 = 0;

const ENTRY: usize = 16;
/** Entries of one line of cache, among which the least valuable gives way. */
const BUCKET: i32 = 4;
const AGES: u64 = 7;

/** Plies of a result that is shallow. */
const SHALLOW: i32 = 3;
/** Shallow entries, each at the one place for its key: a power of two. */
const SHALLOW_ENTRIES: i32 = 4096;
const shallow = new StaticArray<u64>(2 * SHALLOW_ENTRIES);
export const SHALLOW_BYTES: i32 = 16 * SHALLOW_ENTRIES;

/** Where the shallow entries of this thread lie. */
export function shallowTable(): usize {
  return changetype<usize>(shallow);
}

/** Uses memory at an address for the table; `bytes`: a power of two, at least 1024. */
export function useTable(address: usize, bytes: u32): void {
  base = address;
  mask = <u64>(bytes / (<u32>ENTRY * BUCKET)) - 1;
}

export function clearTable(): void {
  memory.fill(base, 0, <usize>(mask + 1) * ENTRY * BUCKET);
  memory.fill(changetype<usize>(shallow), 0, SHALLOW_BYTES);
  age = 0;
}

/** What earlier searches stored gives way sooner. */
export function growOlder(): void {
  age = (age + 1) & AGES;
}

// Data: bits 0–21 move, 22–37 score + 32768, 38–44 depth, 45–46 bound, 47–49 age, 50–63 evaluation + 8192.

// @ts-ignore: decorator
@inline function shallowEntry(key: u64): usize {
  return changetype<usize>(shallow) + <usize>(key & (SHALLOW_ENTRIES - 1)) * ENTRY;
}

/** Whether an entry whose data were read is of a position: read once, as another thread may write meanwhile. */
// @ts-ignore: decorator
@inline function isOf(entry: usize, data: u64, key: u64): bool {
  return (load<u64>(entry) ^ data) == key && data != 0;
}

/** Looks a position up for a search to a depth: where that is shallow, only among the shallow results. */
export function probe(key: u64, depth: i32): bool {
  if (depth > SHALLOW) {
    const bucket = base + <usize>(key & mask) * ENTRY * BUCKET;
    for (let i = 0; i < BUCKET; i++) {
      const entry = bucket + <usize>i * ENTRY;
      const data = load<u64>(entry, 8);
      if (!isOf(entry, data, key)) continue;
      found = data;
      return true;
    }
  }
  const entry = shallowEntry(key);
  const data = load<u64>(entry, 8);
  if (!isOf(entry, data, key)) return false;
  found = data;
  return true;
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

// @ts-ignore: decorator
@inline function packed(move: i32, score: i32, depth: i32, bound: i32, evaluation: i32): u64 {
  return (
    (<u64>move) |
    ((<u64>(score + 32768)) << 22) |
    ((<u64>max(0, min(depth, 127))) << 38) |
    ((<u64>bound) << 45) |
    (age << 47) |
    ((<u64>(max(-8191, min(8191, evaluation)) + 8192)) << 50)
  );
}

// @ts-ignore: decorator
@inline function write(entry: usize, key: u64, data: u64): void {
  store<u64>(entry, key ^ data);
  store<u64>(entry, data, 8);
}

/**
 * Stores a result. A deeper one of the same position is kept unless it is old; else the shallowest and oldest entry
 * gives way. A move that was best earlier stays where there is no new one.
 */
export function storeEntry(key: u64, move: i32, score: i32, depth: i32, bound: i32, evaluation: i32): void {
  if (depth <= SHALLOW) {
    const entry = shallowEntry(key);
    const earlier = load<u64>(entry, 8);
    const best = move == 0 && isOf(entry, earlier, key) ? <i32>(earlier & 0x3fffff) : move;
    write(entry, key, packed(best, score, depth, bound, evaluation));
    return;
  }
  const bucket = base + <usize>(key & mask) * ENTRY * BUCKET;
  let target = bucket;
  let least: i32 = 1 << 30;
  let best = move;
  for (let i = 0; i < BUCKET; i++) {
    const entry = bucket + <usize>i * ENTRY;
    const data = load<u64>(entry, 8);
    if (isOf(entry, data, key)) {
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
  write(target, key, packed(best, score, depth, bound, evaluation));
}
