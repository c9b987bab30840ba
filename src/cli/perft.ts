import { perft as countInCore, type Playable } from '@/core/game/perft';
import { PositionError } from '@/core/game/ruleset';
import { kindOfPosition, rulesetOf } from '@/core/rulesets';
import { ENGINE_FILES } from './engine-files';
import { CommandError, EXIT, usageError } from './exit';
import { sayProblem } from './messages';
import { print } from './print';

/** `perft`: leaf count by the rules core, or by the search's rules. */
export async function perft(
  position: string | undefined,
  depthText: string | undefined,
  byEngine: boolean,
): Promise<number> {
  const depth = Number(depthText);
  if (position === undefined || !Number.isInteger(depth) || depth < 0 || depth > 20)
    throw usageError('Use: ./bektra perft POSITION DEPTH [--engine]');
  const kind = kindOfPosition(position);
  try {
    const start = rulesetOf(kind).start(position === 'startpos' ? undefined : position);
    const count = byEngine
      ? (await (await import('@/engine/hosts/node')).loadSearch(ENGINE_FILES, kind)).perft(
          rulesetOf(kind).write(start),
          depth,
        )
      : countInCore(start as unknown as Playable, depth);
    print(String(count));
    return EXIT.done;
  } catch (error) {
    if (!(error instanceof PositionError)) throw error;
    throw new CommandError(await sayProblem(error), EXIT.problems);
  }
}
