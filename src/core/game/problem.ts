/** Where in a file: 1-based line and column in characters; `game` counts from 1. */
export interface Place {
  line: number;
  column: number;
  game?: number;
}

/** Something wrong with what was read. `code` names a text of the message catalogue, `params` fills it. */
export interface Problem {
  readonly code: string;
  readonly params: Readonly<Record<string, string | number>>;
  readonly place: Place;
}

/** Thrown by readers at the first thing in a game that they can't go beyond. */
export class ReadError extends Error {
  constructor(readonly problem: Problem) {
    super(`${problem.code} at ${problem.place.line}:${problem.place.column}`);
    this.name = 'ReadError';
  }
}

/** Most of what a reader accepts, so that a hostile file can't exhaust the machine. */
export const LIMITS = {
  /** Bytes of a file that is read whole. */
  fileBytes: 64 * 1024 * 1024,
  gamesPerFile: 100_000,
  /** Characters of one game. */
  gameLength: 16 * 1024 * 1024,
  /** Nodes of one game's tree. */
  nodes: 50_000,
  /** Variations within variations. */
  nesting: 100,
  /** Characters of one comment. */
  commentLength: 1024 * 1024,
  tags: 500,
  /** Characters of one tag value. */
  tagLength: 16 * 1024,
} as const;
