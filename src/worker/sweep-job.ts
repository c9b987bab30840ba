import { exactAnswers } from '@/core/ask/exact';
import { sweepGame } from '@/core/ask/sweep-game';
import type { Swept } from '@/core/ask/swept';
import type { GameKind } from '@/core/game/ruleset';
import { goesOverVariations, readSettingsText, settingsText } from '@/core/review/sweep-settings';
import { openAsk, recordAsk } from '@/server/asks';
import { lookUpEnding } from '@/server/endings';
import { withoutKnown } from '@/server/departures';
import { KnownEvaluations } from '@/server/evaluations';
import { completed } from '@/server/findings';
import { logger } from '@/server/log';
import { findOwner } from '@/server/owner';
import type { Claims } from './claims';
import type { EnginePool, Urgency } from './engine-pool';

/**
 * Goes over every main-line position of a game. What was found before, by this sweep or any other, is not searched
 * again: so a sweep taken up after a crash goes on where it was.
 */
export async function runSweep(
  id: number,
  pool: EnginePool,
  claims: Claims,
  versionOf: (kind: GameKind) => string,
  urgency: Urgency,
  signal: AbortSignal,
): Promise<void> {
  const open = await openAsk('sweep', id);
  if (!open) return;
  const { game, ask: asked } = open;
  const { record } = game;
  const version = versionOf(record.tree.kind);
  const owner = await findOwner(asked.ownerId);
  if (!owner) return;
  const settings = await withoutKnown(owner, game, readSettingsText(asked.settings));
  const known = await KnownEvaluations.load(record, version, goesOverVariations(settings));
  if (!(await recordAsk(id, { state: 'running', version, settings: settingsText(settings) })))
    return;

  const unwanted = new AbortController();
  const started = performance.now();
  const busyBefore = pool.busy;
  let recording: Promise<void> = Promise.resolve();
  let latest = 0;
  /** Records how far the sweep has come; what comes meanwhile is told at once. */
  const tell = ({ done, total }: Swept): void => {
    latest = done;
    recording = recording.then(async () => {
      if (latest !== done) return;
      if (!(await recordAsk(id, { done, total }))) unwanted.abort();
    });
    recording.catch(() => unwanted.abort());
  };
  const wanted = AbortSignal.any([signal, unwanted.signal]);
  const ask = known.remember(
    pool.askOf(wanted, urgency),
    (name, stored, search) => claims.answer(name, stored, search, wanted),
    exactAnswers(lookUpEnding),
  );
  const found = await sweepGame(record, settings)(ask, tell).finally(() => recording);
  const { done, total } = found;
  await recordAsk(id, { state: 'done', done, total, ...(await completed(game, id, found)) });
  const wall = performance.now() - started;
  const busy = (pool.busy - busyBefore) / (wall * pool.size);
  logger('sweep').info({ sweep: id, game: game.id, positions: total, wall, busy }, 'sweep done');
}
