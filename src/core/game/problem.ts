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

/** Characters of a text that a message repeats: enough for a position or a few moves. */
const MOST_QUOTED = 200;

/** The details of a message, none of them long: what is quoted may be a whole file. */
export const quotable = (params: Problem['params']): Problem['params'] =>
  Object.fromEntries(
    Object.entries(params).map(([name, value]) => [
      name,
      typeof value === 'string' && value.length > MOST_QUOTED
        ? `${value.slice(0, MOST_QUOTED).toWellFormed()} …`
        : value,
    ]),
  );

/** Thrown by readers at the first thing in a game that they can't go beyond. */
export class ReadError extends Error {
  readonly problem: Problem;

  constructor(problem: Problem) {
    super(`${problem.code} at ${problem.place.line}:${problem.place.column}`);
    this.name = 'ReadError';
    this.problem = { ...problem, params: quotable(problem.params) };
  }
}

/** Most of what is accepted, in every format and from every page, so that nothing hostile can exhaust the machine. */
export const LIMITS = {
  gamesPerFile: 5_000_000,
  /** Characters of one game. */
  gameLength: 16 * 1024 * 1024,
  /** Nodes of one game's tree. */
  nodes: 50_000,
  /** Half moves of one line: longer than any game of chess can last under the 75-move rule. */
  plies: 12_000,
  /** Variations within variations. */
  nesting: 100,
  /** Characters of the words at one node. */
  commentLength: 1024 * 1024,
  /** Characters of one line, in formats that go line by line. */
  lineLength: 2 * 1024 * 1024,
  /** Machine-readable remarks at one node. */
  extras: 1000,
  /** Squares and arrows marked at one node. */
  marks: 200,
  /** Symbols at one node. */
  symbols: 20,
  tags: 500,
  /** Characters of one tag's name. */
  tagName: 200,
  /** Characters of one tag's value. */
  tagLength: 16 * 1024,
} as const;

/** A limit that was met; the message catalogue has a text for each. */
export type Limit = keyof typeof LIMITS;

/** @throws ReadError for a line that is too long to be looked at */
export function requireLineLength(line: string): void {
  if (line.length > LIMITS.lineLength)
    throw new ReadError({ ...limitProblem('lineLength'), place: { line: 0, column: 1 } });
}

/** The problem of a limit that was met. */
export const limitProblem = (limit: Limit): Pick<Problem, 'code' | 'params'> => ({
  code: `limit.${limit}`,
  params: { most: LIMITS[limit] },
});
