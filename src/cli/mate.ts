import type { GameKind } from '@/core/game/ruleset';
import type { MateProver } from '@/engine/mate-prover';
import { MATE_NODES, MATE_PLIES } from '@/core/ask/mate';
import { finish, searchMate } from '@/engine/mate-search';
import { composeMate } from './bench/compose-mates';
import { eachPosition } from './each-position';
import { EXIT, usageError } from './exit';
import { loadMates } from './load-mates';
import type { Options } from './options';
import { print } from './print';

/** `mate`: the shortest mate that the side to move can force. */
export async function mate(said: string | undefined, options: Options): Promise<number> {
  if (options.plies !== undefined && options.plies % 2 === 0)
    throw usageError('A mate takes an odd number of plies: --plies 7.');
  const provers = new Map<GameKind, MateProver>();
  return eachPosition(said, options.json === true, ({ text, ruleset: { kind } }) => {
    const prover = provers.get(kind) ?? loadMates(kind);
    provers.set(kind, prover);
    const plies = options.plies ?? MATE_PLIES[kind];
    const { mate, proven, never, first, line, nodes } = finish(
      searchMate(prover, { position: text, plies, nodes: options.nodes ?? MATE_NODES }),
    );
    if (options.json) return print(JSON.stringify({ mate, proven, first, line, nodes }));
    if (mate === null)
      return print(
        never
          ? 'no mate at all'
          : proven
            ? `no mate within ${plies} plies`
            : `no mate found within ${nodes.toLocaleString('en')} positions`,
      );
    print(
      `mate in ${mate} plies${proven ? '' : ' or fewer'}: ${line.join(' ')}\nbegins with: ${first.join(' ')}`,
    );
  });
}

/** `compose`: a mate problem of shogi, made up. */
export function compose(said: string | undefined, { seed = 1 }: Options): number {
  const plies = Number(said);
  if (!Number.isInteger(plies) || plies < 1 || plies > 25 || plies % 2 === 0)
    throw usageError('Say of how many plies: an odd number up to 25.');
  print(composeMate(loadMates('shogi'), plies, BigInt(seed)));
  return EXIT.done;
}
