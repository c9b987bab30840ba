import type { Move } from '@/core/game/move';
import { rulesetOf } from '@/core/rulesets';
import { randomSource } from '@/engine/draw';
import { errorsIn, gameAt, gameWithRandomMoves } from '@/engine/errors';
import { loadSearch } from '@/engine/hosts/node';
import { ENGINE_FILES } from '../engine-files';
import { report } from './figures';
import { GAME_KINDS } from '@/core/game/ruleset';

const NODES = [150, 600, 2400];
const TEMPERATURE = 28;
const SHARE = 0.15;

/** What made-up players of several levels get wrong, and such as move at random now and then. */
export async function benchLevels(games = 12): Promise<void> {
  for (const kind of GAME_KINDS) {
    const ruleset = rulesetOf(kind);
    const search = await loadSearch(ENGINE_FILES, kind, { table: 4 });
    const tell = (who: string, play: (random: () => number) => Move[]): void => {
      const played = Array.from({ length: games }, (_, game) => play(randomSource(game)));
      const { moves, errors, costly, seenAt } = errorsIn(ruleset, search, played);
      const depths = [...seenAt].sort(([a], [b]) => a - b);
      report(`${kind}, ${who}: errors`, `${errors} of ${moves} moves`);
      report('  lose two pawns or the king: errors', `${costly.errors} of ${errors}`);
      report('  other moves', `${costly.others} of ${moves - errors}`);
      report(
        '  errors by the depth that sees them',
        depths.map((one) => one.join(': ')).join(', '),
      );
    };
    for (const nodes of NODES)
      tell(`${nodes} nodes`, (random) =>
        gameAt(ruleset, search, { nodes, temperature: TEMPERATURE }, random),
      );
    tell(`${100 * SHARE} % at random`, (random) =>
      gameWithRandomMoves(ruleset, search, SHARE, random),
    );
  }
}
