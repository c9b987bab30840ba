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

/** What the rest of Bektra needs to know of a game. Positions are immutable for its users. */
export interface Ruleset<Position = unknown> {
  readonly kind: GameKind;
  /** The name of each side, as used in tags and message catalogues. */
  readonly sides: readonly [SideName, SideName];
  /** Whether moves are numbered by pairs of both sides (chess) or one by one (shogi). */
  readonly numbering: 'move' | 'ply';
  /** The ordinary starting position, as FEN or SFEN. */
  readonly startText: string;
  /** Reads a FEN or SFEN; throws {@link PositionError} when it is malformed or can't be a position. */
  start(setup?: string): Position;
  /** What its positions are written in. */
  readonly positionFormat: 'FEN' | 'SFEN';
  /** Writes the position as FEN or SFEN. */
  write(position: Position): string;
  /** All legal moves. */
  moves(position: Position): Move[];
  /** Those of them that a player chooses from: what can never be of use is left out (docs/accuracy.md). */
  choices(position: Position): Move[];
  isLegal(position: Position, move: Move): boolean;
  /** The position after a legal move or {@link NULL_MOVE}; the given one is left as it was. */
  play(position: Position, move: Move): Position;
  /** 64 bits, equal for positions that are equal under the repetition rule of the game. */
  key(position: Position): bigint;
  side(position: Position): Side;
  inCheck(position: Position): boolean;
  /** Number of the move about to be played, as counted by {@link numbering}. */
  moveNumber(position: Position): number;
  /** `history`: all earlier positions of the game, oldest first, without `position`. */
  status(position: Position, history: readonly Position[]): Status;
  /** How often a position must come up for the game to be drawn, or for a draw to be claimed. */
  readonly repetitions: number;
  /** Half moves since the last capture or pawn move, where a rule counts them; null where none does. */
  quietPlies(position: Position): number | null;
  /** What a search of the position starts from; see {@link SearchRoot}. */
  searchRoot(position: Position, history: readonly Position[]): SearchRoot;
  /** UCI or USI text of a move. */
  code(move: Move): string;
  /** The move a UCI or USI text names, or null where the text is no move at all. Legality is not checked. */
  parseCode(text: string): Move | null;
  /** A line from the start position, in UCI or USI, to show by how moves are written. */
  readonly exampleLine: readonly string[];
  /** Names such as `e4` or `5e` of all squares, by their numbers. */
  readonly squareNames: readonly string[];
  /** SAN (chess) or western notation (shogi) of a legal move. */
  text(position: Position, move: Move): string;
  /** The pieces that side 0 has more than side 1, by letter; negative counts where it has fewer. */
  materialBalance(position: Position): PieceCount[];
  /** The structure of the position in figures, always the same ones in the same order (docs/accuracy.md). */
  features(position: Position): Feature[];
  /** The position as a diagram in plain letters. */
  diagram(position: Position): string;
  /** How a position is set up by hand. */
  readonly setup: PositionSetup<Position>;
  /** Which part of the game the position belongs to (docs/accuracy.md). */
  phase(position: Position): Phase;
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
export interface PositionSetup<Position = unknown> {
  /** What can stand on the board, strongest first, side 0's before side 1's. */
  readonly pieces: readonly number[];
  /** A piece's letter as in FEN or SFEN. */
  letter(piece: number): string;
  /** What stands on a square; 0: nothing. */
  pieceAt(position: Position, square: Square): number;
  empty(): Position;
  /** @param piece 0: take away what stands there */
  put(position: Position, square: Square, piece: number): Position;
  turn(position: Position, side: Side): Position;
  /** Types that can be held in hand, strongest first; none in chess. */
  readonly handTypes: readonly number[];
  held(position: Position, side: Side, type: number): number;
  hold(position: Position, side: Side, type: number, count: number): Position;
  /** Castling rights, each by its letter in FEN, with its side and the castling as SAN writes it; none in shogi. */
  readonly rights: readonly { right: string; side: Side; move: string }[];
  hasRight(position: Position, right: string): boolean;
  toggleRight(position: Position, right: string): Position;
  /** Squares that a pawn can just have passed over; none in shogi. */
  passable(position: Position): readonly { square: Square; name: string }[];
  /** The square that a pawn has just passed over, or -1. */
  passed(position: Position): Square;
  pass(position: Position, square: Square): Position;
}
