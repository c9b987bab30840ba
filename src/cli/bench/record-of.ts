import type { GameRecord } from '@/core/game/record';
import type { GameKind } from '@/core/game/ruleset';
import { ROOT, TreeBuilder } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';

/** A game of which nothing is known but its moves, in UCI or USI; they must be legal. */
export function recordOf(kind: GameKind, moves: readonly string[]): GameRecord {
  const ruleset = rulesetOf(kind);
  const tree = new TreeBuilder(kind, ruleset.startText);
  let node = ROOT;
  for (const code of moves) node = tree.add(node, ruleset.parseCode(code)!);
  return { tree: tree.build(), tags: [], result: '*', end: null };
}
