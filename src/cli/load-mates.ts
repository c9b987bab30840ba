import { readFileSync } from 'node:fs';
import { isQuiet } from '@/core/ask/mate';
import type { GameKind } from '@/core/game/ruleset';
import { MateProver } from '@/engine/mate-prover';
import { ENGINE_FILES } from './engine-files';

/** A prover of the mates of a game, in this process. */
export function loadMates(kind: GameKind): MateProver {
  const file = readFileSync(`${ENGINE_FILES.modules}/${kind}-mates.wasm`);
  const prover = new MateProver(kind, new WebAssembly.Module(file));
  prover.setRules({ quiet: isQuiet(kind), everyDefence: false });
  return prover;
}
