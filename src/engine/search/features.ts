/**
 * What the network sees of a position, kept up to date move by move. A feature is a piece on a square (or in hand) as
 * either side sees it: the number for side 0 in the low half, for side 1 in the high half. Playing a move costs
 * nothing here: what it changed is asked for only where the hidden layer is wanted.
 */
const PLIES: i32 = 513;

/** Values of the hidden layer for one view. */
export const HIDDEN: i32 = 128;
export const VIEW_BYTES: usize = 2 * <usize>HIDDEN;

const hidden: usize = (heap.alloc(<usize>(PLIES * 4 * HIDDEN + 16)) + 15) & ~15;

/** What the move now looked at added and dropped; see {@link noteAdded}. */
const added = new StaticArray<i32>(4);
const dropped = new StaticArray<i32>(4);
let addedCount: i32 = 0;
let droppedCount: i32 = 0;

/** Where the first layer's weights and biases lie; 0: no network is loaded. */
let layer: usize = 0;
let biases: usize = 0;

export function useLayer(weightsAt: usize, biasesAt: usize): void {
  layer = weightsAt;
  biases = biasesAt;
}

/** Begins a new position, empty as yet. */
export function resetFeatures(): void {
  if (layer == 0) return;
  memory.copy(hidden, biases, VIEW_BYTES);
  memory.copy(hidden + VIEW_BYTES, biases, VIEW_BYTES);
}

/** Adds a piece to the position that is being set up. */
export function addAtRoot(feature: i32): void {
  if (layer == 0) return;
  for (let view = 0; view < 2; view++) {
    const row = rowOf(feature, view);
    const values = hidden + <usize>view * VIEW_BYTES;
    for (let at: usize = 0; at < VIEW_BYTES; at += 16)
      v128.store(values + at, i16x8.add(v128.load(values + at), v128.load(row + at)));
  }
}

export function forgetChanges(): void {
  addedCount = 0;
  droppedCount = 0;
}

export function noteAdded(feature: i32): void {
  added[addedCount++] = feature;
}

export function noteDropped(feature: i32): void {
  dropped[droppedCount++] = feature;
}

// @ts-ignore: decorator
@inline function rowOf(feature: i32, view: i32): usize {
  return layer + <usize>(view == 0 ? feature & 0xffff : feature >> 16) * VIEW_BYTES;
}

/** The hidden layer at a ply of the line, for side 0 and then for side 1. */
export function hiddenAt(ply: i32): usize {
  return hidden + <usize>ply * VIEW_BYTES * 2;
}

/** Eight values with a row added and one taken away. */
// @ts-ignore: decorator
@inline function moved(values: v128, added: v128, dropped: v128): v128 {
  return i16x8.sub(i16x8.add(values, added), dropped);
}

/** The same with another row taken away. */
// @ts-ignore: decorator
@inline function taken(values: v128, added: v128, dropped: v128, alsoDropped: v128): v128 {
  return i16x8.sub(moved(values, added, dropped), alsoDropped);
}

/**
 * Computes the hidden layer at a ply from the one before it and the changes noted: as many added as dropped, or one
 * less, or none at all.
 */
export function bringForward(to: i32): void {
  for (let view = 0; view < 2; view++) {
    let target = hiddenAt(to) + <usize>view * VIEW_BYTES;
    let source = target - 2 * VIEW_BYTES;
    if (droppedCount == 0) {
      memory.copy(target, source, VIEW_BYTES);
      continue;
    }
    const end = target + VIEW_BYTES;
    let add = rowOf(added[0], view);
    let drop = rowOf(dropped[0], view);
    if (droppedCount == 1) {
      for (; target < end; target += 64, source += 64, add += 64, drop += 64) {
        v128.store(target, moved(v128.load(source), v128.load(add), v128.load(drop)));
        v128.store(target, moved(v128.load(source, 16), v128.load(add, 16), v128.load(drop, 16)), 16);
        v128.store(target, moved(v128.load(source, 32), v128.load(add, 32), v128.load(drop, 32)), 32);
        v128.store(target, moved(v128.load(source, 48), v128.load(add, 48), v128.load(drop, 48)), 48);
      }
      continue;
    }
    let alsoDrop = rowOf(dropped[1], view);
    if (addedCount == 1) {
      for (; target < end; target += 64, source += 64, add += 64, drop += 64, alsoDrop += 64) {
        v128.store(target, taken(v128.load(source), v128.load(add), v128.load(drop), v128.load(alsoDrop)));
        v128.store(target, taken(v128.load(source, 16), v128.load(add, 16), v128.load(drop, 16), v128.load(alsoDrop, 16)), 16);
        v128.store(target, taken(v128.load(source, 32), v128.load(add, 32), v128.load(drop, 32), v128.load(alsoDrop, 32)), 32);
        v128.store(target, taken(v128.load(source, 48), v128.load(add, 48), v128.load(drop, 48), v128.load(alsoDrop, 48)), 48);
      }
      continue;
    }
    const alsoAdd = rowOf(added[1], view);
    for (let at: usize = 0; at < VIEW_BYTES; at += 16) {
      const values = taken(v128.load(source + at), v128.load(add + at), v128.load(drop + at), v128.load(alsoDrop + at));
      v128.store(target + at, i16x8.add(values, v128.load(alsoAdd + at)));
    }
  }
}
