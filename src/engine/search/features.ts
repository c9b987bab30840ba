/**
 * What the network sees of a position, kept up to date move by move. A feature is a piece on a square (or in hand) as
 * either side sees it: the number for side 0 in the low half, for side 1 in the high half. Each ply of the line notes
 * what it added and dropped; the hidden layer is brought up to date only where it is asked for.
 */
const PLIES: i32 = 513;
const MOST_CHANGES: i32 = 4;

/** Values of the hidden layer for one view. */
export const HIDDEN: i32 = 128;
const VIEW_BYTES: usize = 2 * <usize>HIDDEN;

const added = new StaticArray<i32>(PLIES * MOST_CHANGES);
const dropped = new StaticArray<i32>(PLIES * MOST_CHANGES);
const addedCount = new StaticArray<i32>(PLIES);
const droppedCount = new StaticArray<i32>(PLIES);
const isCurrent = new StaticArray<bool>(PLIES);
const hidden: usize = (heap.alloc(PLIES * 4 * HIDDEN + 16) + 15) & ~15;
let level: i32 = 0;

/** Where the first layer's weights and biases lie; 0: no network is loaded, and nothing is noted. */
let layer: usize = 0;
let biases: usize = 0;

export function useLayer(weightsAt: usize, biasesAt: usize): void {
  layer = weightsAt;
  biases = biasesAt;
}

export function resetFeatures(): void {
  level = 0;
  isCurrent[0] = true;
  if (layer == 0) return;
  memory.copy(hidden, biases, VIEW_BYTES);
  memory.copy(hidden + VIEW_BYTES, biases, VIEW_BYTES);
}

// @ts-ignore: decorator
@inline export function openChanges(): void {
  level++;
  addedCount[level] = 0;
  droppedCount[level] = 0;
  isCurrent[level] = false;
}

// @ts-ignore: decorator
@inline export function closeChanges(): void {
  level--;
}

// @ts-ignore: decorator
@inline export function addFeature(feature: i32): void {
  if (layer == 0) return;
  if (level == 0) {
    addAtRoot(feature);
    return;
  }
  const count = addedCount[level];
  added[(level << 2) | count] = feature;
  addedCount[level] = count + 1;
}

// @ts-ignore: decorator
@inline export function dropFeature(feature: i32): void {
  if (layer == 0) return;
  const count = droppedCount[level];
  dropped[(level << 2) | count] = feature;
  droppedCount[level] = count + 1;
}

function addAtRoot(feature: i32): void {
  for (let view = 0; view < 2; view++) {
    const row = rowOf(feature, view);
    const values = hidden + <usize>view * VIEW_BYTES;
    for (let at: usize = 0; at < VIEW_BYTES; at += 16)
      v128.store(values + at, i16x8.add(v128.load(values + at), v128.load(row + at)));
  }
}

// @ts-ignore: decorator
@inline function rowOf(feature: i32, view: i32): usize {
  return layer + <usize>(view == 0 ? feature & 0xffff : feature >> 16) * VIEW_BYTES;
}

/** The hidden layer of the position, for side 0 and then for side 1. */
export function hiddenLayer(): usize {
  let known = level;
  while (!isCurrent[known]) known--;
  while (known < level) bringForward(++known);
  return hidden + (<usize>level * VIEW_BYTES) * 2;
}

function bringForward(to: i32): void {
  isCurrent[to] = true;
  const adds = addedCount[to];
  const drops = droppedCount[to];
  for (let view = 0; view < 2; view++) {
    const target = hidden + (<usize>to * 2 + <usize>view) * VIEW_BYTES;
    const source = target - 2 * VIEW_BYTES;
    if (adds == 1 && drops == 1) {
      const add = rowOf(added[to << 2], view);
      const drop = rowOf(dropped[to << 2], view);
      for (let at: usize = 0; at < VIEW_BYTES; at += 16)
        v128.store(
          target + at,
          i16x8.sub(i16x8.add(v128.load(source + at), v128.load(add + at)), v128.load(drop + at)),
        );
      continue;
    }
    memory.copy(target, source, VIEW_BYTES);
    for (let i = 0; i < adds; i++) {
      const row = rowOf(added[(to << 2) | i], view);
      for (let at: usize = 0; at < VIEW_BYTES; at += 16)
        v128.store(target + at, i16x8.add(v128.load(target + at), v128.load(row + at)));
    }
    for (let i = 0; i < drops; i++) {
      const row = rowOf(dropped[(to << 2) | i], view);
      for (let at: usize = 0; at < VIEW_BYTES; at += 16)
        v128.store(target + at, i16x8.sub(v128.load(target + at), v128.load(row + at)));
    }
  }
}
