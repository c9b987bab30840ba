import { sideOf as chessSide, typeOf as chessType } from '@/core/chess/pieces';
import type { GameKind, Side } from '@/core/game/ruleset';
import { readFen } from '@/core/chess/fen';
import { readSfen } from '@/core/shogi/sfen';
import { fileOf, rankOf } from '@/core/shogi/board-geometry';
import { sideOf, typeOf } from '@/core/shogi/pieces';

/**
 * The network of the learned evaluation, as the search computes it (src/engine/search/network.ts): one hidden layer
 * for each side's view, clipped to 0–1 and squared, and one linear output for each of four phases of the game.
 */
export const HIDDEN = 128;
export const BUCKETS = 4;
/** Whole numbers stand for these parts of one: hidden values, and weights of the outputs. */
export const HIDDEN_UNIT = 255;
export const OUTPUT_UNIT = 64;
/** Hundredths of a pawn for an output of 1. */
export const OUTPUT_SCALE = 400;
/** An output's weight fits into 127 parts. */
export const MOST_OUTPUT_WEIGHT = 127 / OUTPUT_UNIT;

const SHOGI_BOARD = 14 * 81;
const MOST_HELD = [0, 18, 4, 4, 4, 2, 2, 4];
const HELD_FEATURES = 38;
export const FEATURE_COUNT: Record<GameKind, number> = {
  chess: 768,
  shogi: 2 * SHOGI_BOARD + 2 * HELD_FEATURES,
};

/** What the network sees of a position. */
export interface Seen {
  /** Features as the side to move sees them, and as the other does; of equal length. */
  own: number[];
  other: number[];
  bucket: number;
}

/** Reads a FEN or SFEN into features. */
export const see = (kind: GameKind, position: string): Seen =>
  kind === 'chess' ? seeChess(position) : seeShogi(position);

function seeChess(text: string): Seen {
  const { board, side } = readFen(text);
  const views: [number[], number[]] = [[], []];
  let pieces = 0;
  board.forEach((piece, square) => {
    if (piece === 0) return;
    pieces++;
    for (const view of [0, 1] as const) {
      const kind = chessType(piece) - 1 + (chessSide(piece) === view ? 0 : 6);
      views[view].push(kind * 64 + (view === 0 ? square : square ^ 56));
    }
  });
  return seenBy(views, side, Math.min(3, (pieces - 1) >> 3));
}

function seeShogi(text: string): Seen {
  const { board, hands, side } = readSfen(text);
  const views: [number[], number[]] = [[], []];
  board.forEach((piece, square) => {
    if (piece === 0) return;
    const number = (fileOf(square) - 1) * 9 + rankOf(square) - 1;
    for (const view of [0, 1] as const)
      views[view].push(
        (typeOf(piece) - 1) * 81 +
          (sideOf(piece) === view ? 0 : SHOGI_BOARD) +
          (view === 0 ? number : 80 - number),
      );
  });
  let held = 0;
  for (const owner of [0, 1] as const) {
    let next = 2 * SHOGI_BOARD;
    for (let type = 1; type <= 7; type++) {
      for (let count = 1; count <= hands[owner][type]!; count++)
        for (const view of [0, 1] as const)
          views[view].push(next + count - 1 + (owner === view ? 0 : HELD_FEATURES));
      held += hands[owner][type]!;
      next += MOST_HELD[type]!;
    }
  }
  return seenBy(views, side, held < 3 ? 0 : held < 7 ? 1 : held < 13 ? 2 : 3);
}

const seenBy = (views: [number[], number[]], side: Side, bucket: number): Seen => ({
  own: views[side],
  other: views[1 - side]!,
  bucket,
});

/** The feature that stands for the same piece on a board seen in a mirror, left and right exchanged. */
export function mirroredFeature(kind: GameKind, feature: number): number {
  if (kind === 'chess') return feature ^ 7;
  if (feature >= 2 * SHOGI_BOARD) return feature;
  const number = feature % 81;
  return feature - number + (8 - Math.floor(number / 9)) * 9 + (number % 9);
}

/** A network in floating point, as it is trained. */
export interface Network {
  kind: GameKind;
  /** By feature and hidden value. */
  first: Float32Array;
  firstBias: Float32Array;
  /** By bucket; own values, then the other's. */
  second: Float32Array;
  secondBias: Float32Array;
}

/** The network in whole numbers, in the order in which the search reads it. */
export function quantised({ kind, first, firstBias, second, secondBias }: Network): Uint8Array {
  const words = [
    Int16Array.from(first, (value) => Math.round(value * HIDDEN_UNIT)),
    Int16Array.from(firstBias, (value) => Math.round(value * HIDDEN_UNIT)),
    Int16Array.from(second, (value) => Math.round(value * OUTPUT_UNIT)),
    Int32Array.from(secondBias, (value) => Math.round(value * HIDDEN_UNIT * OUTPUT_UNIT)),
  ];
  if (first.length !== FEATURE_COUNT[kind] * HIDDEN) throw new Error('a network of another game');
  return new Uint8Array(Buffer.concat(words.map((array) => new Uint8Array(array.buffer))));
}

/** The same in floating point again, to be trained further. @throws Error where it is of another game or size */
export function dequantised(kind: GameKind, network: Uint8Array): Network {
  const { first, firstBias, second, secondBias } = readNetwork(kind, network);
  return {
    kind,
    first: Float32Array.from(first, (value) => value / HIDDEN_UNIT),
    firstBias: Float32Array.from(firstBias, (value) => value / HIDDEN_UNIT),
    second: Float32Array.from(second, (value) => value / OUTPUT_UNIT),
    secondBias: Float32Array.from(secondBias, (value) => value / (HIDDEN_UNIT * OUTPUT_UNIT)),
  };
}

function readNetwork(kind: GameKind, { buffer, byteOffset, byteLength }: Uint8Array) {
  const lengths = [FEATURE_COUNT[kind] * HIDDEN, HIDDEN, BUCKETS * 2 * HIDDEN] as const;
  const words = lengths[0] + lengths[1] + lengths[2];
  if (byteLength !== 2 * words + 4 * BUCKETS) throw new Error('a network of another game or size');
  const biasAt = byteOffset + 2 * lengths[0];
  const secondAt = biasAt + 2 * lengths[1];
  return {
    first: new Int16Array(buffer, byteOffset, lengths[0]),
    firstBias: new Int16Array(buffer, biasAt, lengths[1]),
    second: new Int16Array(buffer, secondAt, lengths[2]),
    secondBias: new Int32Array(buffer, secondAt + 2 * lengths[2], BUCKETS),
  };
}

/** Hundredths of a pawn for the side to move by a quantised network, computed plainly: what the search must agree with. */
export function evaluatePlainly(kind: GameKind, network: Uint8Array, position: string): number {
  const { own, other, bucket } = see(kind, position);
  const { first, firstBias, second, secondBias } = readNetwork(kind, network);
  let sum = 0;
  [own, other].forEach((view, half) => {
    for (let unit = 0; unit < HIDDEN; unit++) {
      const value = view.reduce(
        (total, feature) => total + first[feature * HIDDEN + unit]!,
        firstBias[unit]!,
      );
      const clipped = Math.min(HIDDEN_UNIT, Math.max(0, value));
      sum += clipped * clipped * second[(bucket * 2 + half) * HIDDEN + unit]!;
    }
  });
  const value = Math.trunc(sum / HIDDEN_UNIT) + secondBias[bucket]!;
  return Math.trunc((value * OUTPUT_SCALE) / (HIDDEN_UNIT * OUTPUT_UNIT));
}
