import type { Opening } from '../openings/opening';
import type { Feature } from './features';
import type { Move, Square } from './move';
import { quotable, type Problem } from './problem';
import type { EndReason, Result } from './result';

export const GAME_KINDS = ['chess', 'shogi'] as const;
export type GameKind = (typeof GAME_KINDS)[number];

/**
 * 0: the side that moves first from the ordinary start (White in chess, Black in shogi); 1: the other.
 * In a shogi handicap game side 1, the upper side, moves first.
 */
export type Side = 0 | 1;

export const SIDES = [0, 1] as const satisfies readonly Side[];

export const otherSide = (side: Side): Side => (1 - side) as Side;

/** The parts of a game, in order. */
export const PHASES = ['opening', 'middlegame', 'ending'] as const;
export type Phase = (typeof PHASES)[number];

/** What a side may claim without the game having ended by itself. */
export type Claim =
  | { claim: 'threefold repetition' | 'fifty moves' }
  | { claim: 'declaration'; rule: 27 | 24; result: 'win' | 'draw' };

export type Status =
  | { state: 'ongoing'; claims: readonly Claim[] }
  | { state: 'over'; end: EndReason; result: Exclude<Result, '*'> };

/** How many of a piece a side has more than the other, or holds in hand. */
export interface PieceCount {
  piece: string;
  count: number;
}

declare const inside: unique symbol;
/** A position of either game: only its own ruleset looks inside. */
export interface Position {
  readonly [inside]: never;
}

/** The rules. Positions are immutable for their users. */
export interface Rules<P = Position> {
  readonly kind: GameKind;
  /** The name of each side, as used in tags and message catalogues. */
  readonly sides: readonly [SideName, SideName];
  /** The ordinary starting position, as FEN or SFEN. */
  readonly startText: string;
  /** Starts at odds and the like, the ordinary one first; empty where the game has none. */
  readonly handicaps: readonly Handicap[];
  /** The one that a FEN or SFEN is, whatever its move number, or null. */
  handicapOf(start: string): Handicap | null;
  /** Reads a FEN or SFEN; throws {@link PositionError} when it is malformed or can't be a position. */
  start(setup?: string): P;
  /** All legal moves. */
  moves(position: P): Move[];
  /** Those of them that a player chooses from: what can never be of use is left out (docs/accuracy.md). */
  choices(position: P): Move[];
  isLegal(position: P, move: Move): boolean;
  /** The position after a legal move or {@link NULL_MOVE}; the given one is left as it was. */
  play(position: P, move: Move): P;
  /** 64 bits, equal for positions that are equal under the repetition rule of the game. */
  key(position: P): bigint;
  /** The keys of a position and of those that legal moves lead to, one after the other. */
  keysAlong(position: P, moves: readonly Move[]): bigint[];
  side(position: P): Side;
  inCheck(position: P): boolean;
  /** `history`: all earlier positions of the game, oldest first, without `position`. */
  status(position: P, history: readonly P[]): Status;
  /** How often a position must come up for the game to be drawn, or for a draw to be claimed. */
  readonly repetitions: number;
  /** Half moves since the last capture or pawn move, where a rule counts them; null where none does. */
  quietPlies(position: P): number | null;
  /** What a search of the position starts from; see {@link SearchRoot}. */
  searchRoot(position: P, history: readonly P[]): SearchRoot;
}

/** Ways of writing moves that a reader may choose from. */
export const WRITINGS = ['western', 'japanese'] as const;
export type WritingName = (typeof WRITINGS)[number];

/** What a text that somebody wrote means, or what is wrong with it and which moves look like it. */
export type MoveReading =
  { move: Move } | { problem: 'malformed' | 'illegal' | 'ambiguous'; nearby: string[] };

/** How positions and moves are written and read. */
export interface Writing<P = Position> {
  /** Whether moves are numbered by pairs of both sides (chess) or one by one (shogi). */
  readonly numbering: 'move' | 'ply';
  /** Number of the move about to be played, as counted by {@link numbering}. */
  moveNumber(position: P): number;
  /** What its positions are written in. */
  readonly positionFormat: 'FEN' | 'SFEN';
  /** Writes the position as FEN or SFEN. */
  write(position: P): string;
  /** UCI or USI text of a move. */
  code(move: Move): string;
  /** The move a UCI or USI text names, or null where the text is no move at all. Legality is not checked. */
  parseCode(text: string): Move | null;
  /** A line from the start position, in UCI or USI, to show by how moves are written. */
  readonly exampleLine: readonly string[];
  /** Names such as `e4` or `5e` of all squares, by their numbers. */
  readonly squareNames: readonly string[];
  /** SAN (chess) or western notation (shogi) of a legal move. */
  text(position: P, move: Move): string;
  /** The ways of writing that the game knows. */
  readonly writings: readonly WritingName[];
  /** A legal move or {@link NULL_MOVE}, written one way; as {@link text} where the game does not know it. */
  textIn(writing: WritingName, position: P, move: Move, previous: Move | null): string;
  /** A piece by its letter, written one way. */
  pieceIn(writing: WritingName, letter: string): string;
  /**
   * Reads a move as a person writes it, trimmed, in any way the game knows.
   * @param previous the move before; null where there is none
   * @param among `moves`: others follow it, and what it leaves open is taken as meant plainly; `typed`: that is asked about
   */
  readText(position: P, text: string, previous: Move | null, among: 'typed' | 'moves'): MoveReading;
  /** The position as a diagram in plain letters. */
  diagram(position: P): string;
}

/** What is said of a position in words and figures. */
export interface Structure<P = Position> {
  /** The pieces that side 0 has more than side 1, by letter; negative counts where it has fewer. */
  materialBalance(position: P): PieceCount[];
  /** The structure of the position in figures, always the same ones in the same order (docs/accuracy.md). */
  features(position: P): Feature[];
  /** Which part of the game the position belongs to (docs/accuracy.md). */
  phase(position: P): Phase;
  /** How a game was opened, where that has a name. */
  opening(start: P, moves: readonly Move[]): Opening | null;
}

/** What the rest of Bektra needs to know of a game. */
export interface Ruleset<P = Position> extends Rules<P>, Writing<P>, Structure<P> {
  /** How a position is set up by hand. */
  readonly setup: PositionSetup<P>;
}

/** A start at odds: its name in the message catalogue, and the position. */
export interface Handicap {
  readonly name: string;
  readonly start: string;
}

/**
 * All that the value of a position can depend on, and nothing else: two games that reach equal roots share
 * their evaluations.
 */
export interface SearchRoot {
  /** FEN or SFEN with its counters set to nought where they can't matter. */
  position: string;
  /** Half moves towards the fifty-move rule, where near enough to matter; else 0. */
  moveCount: number;
  /** Positions that end the game when they come up once more; `checker`: who has given check all the while. */
  repeated: readonly { position: string; checker: Side | null }[];
}

export type SideName = 'white' | 'black';

/** A position that can't be: `code` names the reason in the message catalogue, `params` its details. */
export class PositionError extends Error {
  readonly params: Problem['params'];

  constructor(
    readonly code: string,
    params: Problem['params'] = {},
  ) {
    const quoted = quotable(params);
    super(`${code} ${JSON.stringify(quoted)}`);
    this.name = 'PositionError';
    this.params = quoted;
  }
}

/**
 * How a position is set up by hand, piece by piece. On the way it may be none that the rules allow: that is for
 * `Ruleset.start` to say. Positions are left as they were.
 */
export interface PositionSetup<P = Position> {
  /** What can stand on the board, strongest first, side 0's before side 1's. */
  readonly pieces: readonly number[];
  /** A piece's letter as in FEN or SFEN. */
  letter(piece: number): string;
  /** What stands on a square; 0: nothing. */
  pieceAt(position: P, square: Square): number;
  empty(): P;
  /** Where the other side sees a square as this one sees it. */
  opposite(square: Square): Square;
  /** @param piece 0: take away what stands there */
  put(position: P, square: Square, piece: number): P;
  turn(position: P, side: Side): P;
  /** Types that can be held in hand, strongest first; none in chess. */
  readonly handTypes: readonly number[];
  held(position: P, side: Side, type: number): number;
  hold(position: P, side: Side, type: number, count: number): P;
  /** Castling rights, each by its letter in FEN, with its side and the castling as SAN writes it; none in shogi. */
  readonly rights: readonly { right: string; side: Side; move: string }[];
  hasRight(position: P, right: string): boolean;
  toggleRight(position: P, right: string): P;
  /** Squares that a pawn can just have passed over; none in shogi. */
  passable(position: P): readonly { square: Square; name: string }[];
  /** The square that a pawn has just passed over, or -1. */
  passed(position: P): Square;
  pass(position: P, square: Square): P;
}
