import type { GameKind, SearchRoot } from '../game/ruleset';
import type { Score } from '../game/score';

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
  /** Forget all earlier searches first, so that the answer depends on nothing but this question. */
  fresh: boolean;
}

export interface AnswerLine {
  /** From the view of side 0. */
  score: Score;
  /** UCI or USI, best play; never empty. */
  moves: readonly string[];
}

/** What a search has found at a depth that is complete for all lines. */
export interface Answer {
  depth: number;
  /** How far its longest line was followed, where the engine says so. */
  selectiveDepth?: number;
  nodes: number;
  milliseconds: number;
  /** Best first for the side to move; empty where it has no legal move. */
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
