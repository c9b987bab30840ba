import { sweepGame } from '@/core/ask/sweep-game';
import type { Swept } from '@/core/ask/swept';
import type { GameKind } from '@/core/game/ruleset';
import { findingsFrom } from '@/core/review/findings';
import { readSettingsText } from '@/core/review/sweep-settings';
import { openAsk, recordAsk } from '@/server/asks';
import { KnownEvaluations } from '@/server/evaluations';
import { kept } from '@/server/findings';
import { logger } from '@/server/log';
import type { EnginePool } from './engine-pool';

/**
 * Goes over every main-line position of a game. What was found before, by this sweep or any other, is not searched
 * again: so a sweep taken up after a crash goes on where it was.
 */
export async function runSweep(
  id: number,
  pool: EnginePool,
  versionOf: (kind: GameKind) => string,
  signal: AbortSignal,
): Promise<void> {
  const open = await openAsk('sweep', id);
  if (!open) return;
  const { game, ask } = open;
  const { record } = game;
  const version = versionOf(record.tree.kind);
  const known = await KnownEvaluations.load(record, version);
  if (!(await recordAsk(id, { state: 'running', version }))) return;

  const unwanted = new AbortController();
  const started = performance.now();
  const busyBefore = pool.busy;
  let recording: Promise<void> = Promise.resolve();
  let latest = 0;
  /** Records how far the sweep has come, once what was found is stored; what comes meanwhile is told at once. */
  const tell = ({ done, total }: Swept): void => {
    latest = done;
    recording = recording.then(async () => {
      if (latest !== done) return;
      await known.stored();
      if (!(await recordAsk(id, { done, total }))) unwanted.abort();
    });
    recording.catch(() => unwanted.abort());
  };
  const asking = pool.askOf(AbortSignal.any([signal, unwanted.signal]), 'background');
  const plan = sweepGame(record, readSettingsText(ask.settings));
  const { done, total, evaluations } = await plan(known.remember(asking), tell).finally(() =>
    Promise.all([recording, known.stored()]),
  );
  const findings = findingsFrom(record, evaluations());
  await recordAsk(id, { state: 'done', done, total, ...kept(findings) });
  const wall = performance.now() - started;
  const busy = (pool.busy - busyBefore) / (wall * pool.size);
  logger('sweep').info({ sweep: id, game: game.id, positions: total, wall, busy }, 'sweep done');
}
