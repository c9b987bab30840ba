import { GAME_KINDS } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { loadSearch, searchOf } from '@/engine/hosts/node';
import { UNTIMED, type SearchModule } from '@/engine/search-module';
import { ENGINE_FILES } from '../engine-files';
import { earlierEngine, readSuite } from '../suite';
import { report } from './figures';

const NODES = [30_000, 100_000, 300_000, 1_000_000];
const TABLE_MEGABYTES = 16;

/** How many quiet positions the engine and an earlier one solve in so many nodes. */
export async function benchQuiet(): Promise<void> {
  for (const kind of GAME_KINDS) {
    const suite = await readSuite(kind, 'quiet');
    const ruleset = rulesetOf(kind);
    const solvedBy = (engine: SearchModule, nodes: number): number =>
      suite.filter(({ position, best }) => {
        const root = ruleset.searchRoot(ruleset.start(position), []);
        const asked = { kind, root, budget: { nodes }, lines: 1, fresh: true };
        return engine.search(asked, UNTIMED).lines[0]?.moves[0] === best;
      }).length;
    const now = await loadSearch(ENGINE_FILES, kind, { table: TABLE_MEGABYTES });
    const earlier = await searchOf(kind, earlierEngine(kind), TABLE_MEGABYTES);
    for (const nodes of NODES)
      report(
        `${kind} quiet positions solved in ${nodes.toLocaleString('en')} nodes`,
        `${solvedBy(now, nodes)} of ${suite.length}, by the engine of before ${solvedBy(earlier, nodes)}`,
      );
  }
}
