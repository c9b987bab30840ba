import { added, alsoAdded, alsoDropped, dropped } from './changes';
import { GAME_PLIES } from './moves';
import { FEATURES, keys, noteChanges, top } from './rules';

/**
 * What the network sees of a position, kept up to date move by move. A feature is a piece on a square (or in hand) as
 * either side sees it: the number for side 0 in the low half, for side 1 in the high half. Playing a move costs
 * nothing here: what it changed is asked for only where the hidden layer is wanted.
 */
const PLIES: i32 = GAME_PLIES + 1;

/** Values of the hidden layer for one view. */
export const HIDDEN: i32 = 128;
export const VIEW_BYTES: usize = 2 * <usize>HIDDEN;

const hidden: usize = (heap.alloc(<usize>(PLIES * 4 * HIDDEN + 16)) + 15) & ~15;

/** By depth of the line: the key of the position whose hidden layer is known there. */
const hiddenFor = new StaticArray<u64>(PLIES);

/** Where the first layer's weights and biases lie; 0: no network is loaded. */
let layer: usize = 0;
let biases: usize = 0;

export function useLayer(weightsAt: usize, biasesAt: usize): void {
  layer = weightsAt;
  biases = biasesAt;
  for (let ply = 0; ply < PLIES; ply++) hiddenFor[ply] = 0;
}

/** Begins a new position, empty as yet. */
export function resetFeatures(): void {
  if (layer == 0) return;
  memory.copy(hidden, biases, VIEW_BYTES);
  memory.copy(hidden + VIEW_BYTES, biases, VIEW_BYTES);
}

/** Adds a piece to the position that is being set up. */
export function addAtRoot(placement: i32): void {
  if (layer == 0) return;
  for (let view = 0; view < 2; view++) {
    const row = rowOf(placement, view);
    const values = hidden + <usize>view * VIEW_BYTES;
    for (let at: usize = 0; at < VIEW_BYTES; at += 16)
      v128.store(values + at, i16x8.add(v128.load(values + at), v128.load(row + at)));
  }
}

// @ts-ignore: decorator
@inline function rowOf(placement: i32, view: i32): usize {
  const feature = FEATURES[placement];
  return layer + <usize>(view == 0 ? feature & 0xffff : feature >> 16) * VIEW_BYTES;
}

/** The hidden layer for the position now, brought up to date from the last of the line for which it is known. */
export function hiddenLayer(): usize {
  let known = top;
  while (known > 0 && hiddenFor[known] != keys[known]) known--;
  while (known < top) {
    noteChanges(known);
    known++;
    bringForward(known);
    hiddenFor[known] = keys[known];
  }
  return hiddenAt(top);
}

/** The hidden layer at a ply of the line, for side 0 and then for side 1. */
function hiddenAt(ply: i32): usize {
  return hidden + <usize>ply * VIEW_BYTES * 2;
}

/** Eight values with a row added and one taken away. */
// @ts-ignore: decorator
@inline function moved(values: v128, add: v128, drop: v128): v128 {
  return i16x8.sub(i16x8.add(values, add), drop);
}

/** The same with another row taken away. */
// @ts-ignore: decorator
@inline function taken(values: v128, add: v128, drop: v128, alsoDrop: v128): v128 {
  return i16x8.sub(moved(values, add, drop), alsoDrop);
}

/**
 * Computes the hidden layer at a ply from the one before it and the change noted.
 */
function bringForward(to: i32): void {
  for (let view = 0; view < 2; view++) {
    let target = hiddenAt(to) + <usize>view * VIEW_BYTES;
    let source = target - 2 * VIEW_BYTES;
    if (dropped == 0) {
      memory.copy(target, source, VIEW_BYTES);
      continue;
    }
    const end = target + VIEW_BYTES;
    let add = rowOf(added, view);
    let drop = rowOf(dropped, view);
    if (alsoDropped == 0) {
      for (; target < end; target += 64, source += 64, add += 64, drop += 64) {
        v128.store(target, moved(v128.load(source), v128.load(add), v128.load(drop)));
        v128.store(target, moved(v128.load(source, 16), v128.load(add, 16), v128.load(drop, 16)), 16);
        v128.store(target, moved(v128.load(source, 32), v128.load(add, 32), v128.load(drop, 32)), 32);
        v128.store(target, moved(v128.load(source, 48), v128.load(add, 48), v128.load(drop, 48)), 48);
      }
      continue;
    }
    let alsoDrop = rowOf(alsoDropped, view);
    if (alsoAdded == 0) {
      for (; target < end; target += 64, source += 64, add += 64, drop += 64, alsoDrop += 64) {
        v128.store(target, taken(v128.load(source), v128.load(add), v128.load(drop), v128.load(alsoDrop)));
        v128.store(target, taken(v128.load(source, 16), v128.load(add, 16), v128.load(drop, 16), v128.load(alsoDrop, 16)), 16);
        v128.store(target, taken(v128.load(source, 32), v128.load(add, 32), v128.load(drop, 32), v128.load(alsoDrop, 32)), 32);
        v128.store(target, taken(v128.load(source, 48), v128.load(add, 48), v128.load(drop, 48), v128.load(alsoDrop, 48)), 48);
      }
      continue;
    }
    const alsoAdd = rowOf(alsoAdded, view);
    for (let at: usize = 0; at < VIEW_BYTES; at += 16) {
      const values = taken(v128.load(source + at), v128.load(add + at), v128.load(drop + at), v128.load(alsoDrop + at));
      v128.store(target + at, i16x8.add(values, v128.load(alsoAdd + at)));
    }
  }
}
