import { insertLine } from '@/core/game/edits';
import type { GameRecord } from '@/core/game/record';
import type { GameKind } from '@/core/game/ruleset';
import { applySteps } from '@/core/game/steps';
import { emptyTree, ROOT } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';

/** A game of a main line alone, in UCI or USI; its nodes are numbered from 1. */
export function mainLineOf(kind: GameKind, codes: readonly string[]): GameRecord {
  const ruleset = rulesetOf(kind);
  const tree = emptyTree(kind, ruleset.startText);
  let next = 1;
  const moves = codes.map((code) => ruleset.parseCode(code)!);
  const { steps } = insertLine(tree, ROOT, moves, () => next++);
  return applySteps({ tree, tags: [], result: '*', end: null }, steps);
}
