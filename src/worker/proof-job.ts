import { join } from 'node:path';
import { CalledOff } from '@/core/ask/question';
import type { GameKind } from '@/core/game/ruleset';
import { proveAs, PROOF_POSITIONS } from '@/engine/hosts/ending-proof';
import { openAsk, recordAsk } from '@/server/asks';
import { endingsFolder } from '@/server/endings';
import { logger } from '@/server/log';
import { positionToProve, proofOf, PROOF_PARTS } from '@/server/proofs';
import { settings } from '@/server/settings';
import { sweepAnew } from '@/server/sweeps';

const PROGRESS_MS = 1000;

/**
 * Proves what one position is worth, as far as that is within reach; what is known stays when it is called off. Once it is over, the game
 * is gone over again if it was before.
 */
export async function runProof(
  id: number,
  versionOf: (kind: GameKind) => string,
  signal: AbortSignal,
): Promise<void> {
  const open = await openAsk('proof', id);
  if (!open) return;
  const position = positionToProve(open.game, open.ask.position!.moves);
  const plan = position && (await proofOf(position));
  if (!(await recordAsk(id, { state: 'running' }))) return;
  const started = performance.now();
  let told = started;
  const tell = (share: number): void => {
    if (performance.now() - told < PROGRESS_MS) return;
    told = performance.now();
    recordAsk(id, { done: Math.floor(share * PROOF_PARTS) }).catch((error: unknown) =>
      logger('proof').warn({ err: error, proof: id }, 'progress was not kept'),
    );
  };
  const { root, engines } = settings();
  if (position && plan)
    await proveAs(
      plan,
      position,
      {
        module: join(root, 'dist/engine/endings.wasm'),
        thread: join(root, 'dist/ending-thread.mjs'),
      },
      {
        folder: endingsFolder(),
        threads: engines,
        signal,
        budget: PROOF_POSITIONS,
        onProgress: tell,
      },
    ).catch((error: unknown) => {
      // what was called off need not end well
      throw signal.aborted ? new CalledOff() : error;
    });
  await recordAsk(id, { state: 'done', done: PROOF_PARTS });
  const { game, ask } = open;
  await sweepAnew({ id: ask.ownerId }, game, versionOf(game.record.tree.kind));
  logger('proof').info({ proof: id, how: plan?.how, wall: performance.now() - started }, 'proved');
}
