import type { GameKind, SearchRoot } from '../game/ruleset';
import type { EvaluatedLine } from '../review/evaluation';

/** When a search stops; the first limit reached counts. None: it goes on until it is stopped. */
export interface Budget {
  /** Plies, 1–126. */
  depth?: number;
  nodes?: number;
  milliseconds?: number;
  /** The first line is a forced mate, for whomever. */
  mate?: boolean;
}

/** What is asked of an engine: everything that a search depends on, as plain data. */
export interface Question {
  kind: GameKind;
  root: SearchRoot;
  /** The game up to the position, for engines that want to be told it. */
  game?: { start: string; moves: readonly string[] };
  budget: Budget;
  /** How many lines, all searched to the same depth. */
  lines: number;
  /** UCI or USI moves to choose from, where not all. */
  only?: readonly string[];
  /** Full width to the depth and quiescence, as a person looks ahead: nothing is left out, and nothing looked at more deeply. */
  plain?: boolean;
  /** Nothing but a mate by check after check, proved: its line is the answer, or none where none was found within the nodes. */
  checks?: boolean;
  /** Forget all earlier searches first, so that the answer depends on nothing but this question. */
  fresh: boolean;
}

/** A line that an engine found; its moves are never none. */
export type AnswerLine = EvaluatedLine;

/** All of a question but its position, and what it chooses from, as one text: `nodes 250000 mate lines 1`. */
export function questionText({
  budget,
  lines,
  plain,
  checks,
}: Pick<Question, 'budget' | 'lines' | 'plain' | 'checks'>): string {
  const { depth, nodes, milliseconds, mate } = budget;
  const limits = { depth, nodes, milliseconds };
  return [
    ...Object.entries(limits).flatMap(([name, value]) =>
      value === undefined ? [] : [`${name} ${value}`],
    ),
    ...(mate ? ['mate'] : []),
    ...(plain ? ['plain'] : []),
    ...(checks ? ['checks'] : []),
    `lines ${lines}`,
  ].join(' ');
}

/** What a search has found at a depth that is complete for all lines; at its end, what the next has found of a single line by then. */
export interface Answer {
  depth: number;
  /** How far its longest line was followed, where the engine says so. */
  selectiveDepth?: number;
  nodes: number;
  milliseconds: number;
  /** Best first for the side to move; empty where it has no legal move, or where no mate was found that was asked for. */
  lines: readonly AnswerLine[];
}

/** Nobody wants the answer any more. */
export class CalledOff extends Error {
  constructor() {
    super('called off');
    this.name = 'CalledOff';
  }
}

/**
 * Puts a question to an engine, whichever and wherever; rejects with {@link CalledOff} once nobody wants the answer any more.
 * @param onDepth told of each depth on the way
 */
export type Ask = (question: Question, onDepth?: (answer: Answer) => void) => Promise<Answer>;

/**
 * A small program over questions: tells what it has found whenever that is more than before, and ends with all of it. It is driven
 * alike by the worker, a page and a command, which decide what engine answers, and call it off by refusing to answer.
 */
export type Plan<Found> = (ask: Ask, tell: (soFar: Found) => void) => Promise<Found>;

/** Waits for all parts of a plan, and only then throws what the first that failed has thrown. */
export async function allEnded(parts: readonly Promise<unknown>[]): Promise<void> {
  const ended = await Promise.allSettled(parts);
  const failed = ended.find(({ status }) => status === 'rejected');
  if (failed) throw (failed as PromiseRejectedResult).reason;
}
