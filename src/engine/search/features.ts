/**
 * What the network sees of a position, kept up to date move by move. A feature is a piece on a square (or in hand) as
 * either side sees it: the number for side 0 in the low half, for side 1 in the high half. Playing a move costs
 * nothing here: what it changed is asked for only where the hidden layer is wanted.
 */
const PLIES: i32 = 513;

/** Values of the hidden layer for one view. */
export const HIDDEN: i32 = 128;
const VIEW_BYTES: usize = 2 * <usize>HIDDEN;

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

/** Computes the hidden layer at a ply from the one before it and the changes noted. */
export function bringForward(to: i32): void {
  for (let view = 0; view < 2; view++) {
    const target = hiddenAt(to) + <usize>view * VIEW_BYTES;
    const source = target - 2 * VIEW_BYTES;
    if (addedCount == 1 && droppedCount == 1) {
      const add = rowOf(added[0], view);
      const drop = rowOf(dropped[0], view);
      for (let at: usize = 0; at < VIEW_BYTES; at += 16)
        v128.store(
          target + at,
          i16x8.sub(i16x8.add(v128.load(source + at), v128.load(add + at)), v128.load(drop + at)),
        );
      continue;
    }
    memory.copy(target, source, VIEW_BYTES);
    for (let i = 0; i < addedCount; i++) {
      const row = rowOf(added[i], view);
      for (let at: usize = 0; at < VIEW_BYTES; at += 16)
        v128.store(target + at, i16x8.add(v128.load(target + at), v128.load(row + at)));
    }
    for (let i = 0; i < droppedCount; i++) {
      const row = rowOf(dropped[i], view);
      for (let at: usize = 0; at < VIEW_BYTES; at += 16)
        v128.store(target + at, i16x8.sub(v128.load(target + at), v128.load(row + at)));
    }
  }
}
