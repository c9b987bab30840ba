import type { Answer } from '@/core/ask/question';
import type { Ruleset } from '@/core/game/ruleset';
import { UNTIMED, type SearchModule } from './search-module';

interface Look {
  nodes: number;
  lines?: number;
  /** Whether what earlier searches have found is left alone. */
  fresh?: boolean;
}

/** Searches the last of some positions, each of which led to the next, for so many nodes. */
export const searchLast = <P>(
  ruleset: Ruleset<P>,
  module: SearchModule,
  positions: readonly P[],
  { nodes, lines = 1, fresh = true }: Look,
): Answer =>
  module.search(
    {
      kind: ruleset.kind,
      root: ruleset.searchRoot(positions.at(-1)!, positions.slice(0, -1)),
      budget: { nodes },
      lines,
      fresh,
    },
    UNTIMED,
  );
