import type { Move } from './move';
import type { Ruleset } from './ruleset';

/** One move of a line, with the positions before and after it. */
export interface WalkedMove<P> {
  /** UCI or USI. */
  code: string;
  move: Move;
  before: P;
  after: P;
}

/** Walks along a line in UCI or USI; what can't be played ends it. */
export function walk<P>(ruleset: Ruleset<P>, from: P, codes: readonly string[]): WalkedMove<P>[] {
  const walked: WalkedMove<P>[] = [];
  let before = from;
  for (const code of codes) {
    const move = ruleset.parseCode(code);
    if (move === null || !ruleset.isLegal(before, move)) break;
    const after = ruleset.play(before, move);
    walked.push({ code, move, before, after });
    before = after;
  }
  return walked;
}
