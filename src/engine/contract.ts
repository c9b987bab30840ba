import type { GameKind, SearchRoot } from '@/core/game/ruleset';
import type { Score } from '@/core/game/score';

/** When a search stops; the first limit reached counts. None: it goes on until it is stopped. */
export interface SearchLimits {
  /** Plies, 1–126. */
  depth?: number;
  nodes?: number;
  milliseconds?: number;
  /** The first line is a forced mate, for whomever. */
  mate?: boolean;
}

/** Everything a search depends on, as plain data. */
export interface SearchRequest {
  kind: GameKind;
  root: SearchRoot;
  /** The game up to the position, for engines that want to be told it. */
  game?: { start: string; moves: readonly string[] };
  limits: SearchLimits;
  /** How many lines, all searched to the same depth. */
  lines: number;
  /** UCI or USI moves to choose from, where not all. */
  only?: readonly string[];
  /** Forget all earlier searches first, so that the result depends on nothing but this request. */
  fresh: boolean;
}

export interface SearchLine {
  /** From the view of side 0. */
  score: Score;
  /** UCI or USI, best play; never empty. */
  moves: readonly string[];
}

/** What a search has found at a depth that is complete for all lines. */
export interface SearchInfo {
  depth: number;
  selectiveDepth: number;
  nodes: number;
  milliseconds: number;
  /** Best first for the side to move; empty where it has no legal move. */
  lines: readonly SearchLine[];
}

/**
 * An engine, wherever it runs. It does one search at a time; another one asked for meanwhile waits. When `signal`
 * aborts, the search ends within milliseconds with what it has.
 */
export interface Engine {
  search(
    request: SearchRequest,
    options?: { onInfo?: (info: SearchInfo) => void; signal?: AbortSignal },
  ): Promise<SearchInfo>;
  close(): void;
}

/** What went wrong with an engine, in words that may be shown: no paths, no stack. */
export class EngineError extends Error {
  constructor(message: string) {
    super(message);
    this.name = 'EngineError';
  }
}
