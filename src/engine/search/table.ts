/** The transposition table: entries of two words, key XOR data and data, so that a torn entry is never believed. */
let base: usize = 0;
let mask: u64 = 0;
let found: u64 = 0;

const ENTRY: usize = 16;

/** Sets the size in bytes (a power of two, at least 1024); what it held is lost. */
export function allocateTable(bytes: u32): void {
  if (base == 0 || <u64>bytes > (mask + 1) * ENTRY) base = heap.alloc(bytes);
  mask = <u64>(bytes / <u32>ENTRY) - 1;
  clearTable();
}

export function clearTable(): void {
  memory.fill(base, 0, <usize>(mask + 1) * ENTRY);
}

export function probe(key: u64): bool {
  const entry = base + <usize>(key & mask) * ENTRY;
  const data = load<u64>(entry, 8);
  if ((load<u64>(entry) ^ data) != key || data == 0) return false;
  found = data;
  return true;
}

// Data: bits 0–21 move, 22–37 score + 32768, 38–45 depth, 46–47 bound.

export function tableMove(): i32 {
  return <i32>(found & 0x3fffff);
}

export function tableScore(): i32 {
  return <i32>((found >> 22) & 0xffff) - 32768;
}

export function tableDepth(): i32 {
  return <i32>((found >> 38) & 0xff);
}

export function tableBound(): i32 {
  return <i32>((found >> 46) & 3);
}

/** Deeper results of the same position are kept; of another position, replaced. */
export function storeEntry(key: u64, move: i32, score: i32, depth: i32, bound: i32): void {
  const entry = base + <usize>(key & mask) * ENTRY;
  const old = load<u64>(entry, 8);
  if ((load<u64>(entry) ^ old) == key && <i32>((old >> 38) & 0xff) > depth && bound != 1) return;
  const data: u64 =
    (<u64>move) |
    ((<u64>(score + 32768)) << 22) |
    ((<u64>min(depth, 255)) << 38) |
    ((<u64>bound) << 46);
  store<u64>(entry, key ^ data);
  store<u64>(entry, data, 8);
}
