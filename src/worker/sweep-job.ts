import { readSettingsText, type SweepSettings } from '@/core/review/sweep-settings';
import type { SearchInfo } from '@/engine/contract';
import { holdsMove, mainRequest, pricingRequest } from '@/engine/search-position';
import {
  evaluationsOf,
  storeEvaluation,
  sweepPositions,
  type Found,
  type SweepPosition,
} from '@/server/evaluations';
import type { StoredGame } from '@/server/games';
import { logger } from '@/server/log';
import { openSweep, recordProgress } from '@/server/sweeps';
import type { EnginePool } from './engine-pool';

const log = () => logger('sweep');

const foundBy = ({ depth, nodes, milliseconds, lines }: SearchInfo): Found => ({
  depth,
  nodes,
  milliseconds,
  lines: lines.map(({ score, moves }) => ({ score, moves: [...moves] })),
});

/**
 * Goes over every main-line position of a game. What was found before, by this sweep or any other, is not searched
 * again: so a sweep taken up after a crash goes on where it was.
 */
export async function runSweep(
  id: number,
  pool: EnginePool,
  version: (kind: 'chess' | 'shogi') => string,
  signal: AbortSignal,
): Promise<void> {
  const open = await openSweep(id);
  if (!open) return;
  const { game, sweep } = open;
  const engine = version(game.record.tree.kind);
  const settings = readSettingsText(sweep.settings);
  const all = sweepPositions(game.record);
  const known = await evaluationsOf(game.record, engine, sweep.settings);
  const isKnown = ({ ply, played, over }: SweepPosition): boolean => {
    const evaluation = known[ply];
    if (over) return true;
    if (!evaluation) return false;
    return (
      played === null || holdsMove(evaluation.lines, played) || evaluation.played !== undefined
    );
  };
  const left = all.filter((position) => !isKnown(position));
  let done = all.length - left.length;
  if (!(await recordProgress(id, { state: 'running', engine, done, total: all.length }))) return;

  const task = new SweepTask(game, engine, sweep.settings, settings, pool, signal);
  const started = performance.now();
  const busyBefore = pool.busy;
  const finishOne = async (stored: Promise<unknown>): Promise<void> => {
    await stored;
    done++;
    if (!(await recordProgress(id, { done }))) task.stop();
  };
  const storing: Promise<void>[] = [];
  const searchOn = async (): Promise<void> => {
    for (let next = left.shift(); next && !task.stopped; next = left.shift()) {
      const searched = await task.search(next, known[next.ply] ?? null);
      if (searched) storing.push(finishOne(searched.stored));
    }
  };
  await Promise.all(Array.from({ length: pool.size }, searchOn));
  await Promise.all(storing);
  if (task.stopped) return;
  await recordProgress(id, { state: 'done', done: all.length });
  const wall = performance.now() - started;
  const busy = (pool.busy - busyBefore) / (wall * pool.size);
  log().info({ sweep: id, game: game.id, positions: all.length, wall, busy }, 'sweep done');
}

/** The searches of one sweep. */
class SweepTask {
  private readonly cancelled = new AbortController();
  private readonly signal: AbortSignal;

  constructor(
    private readonly game: StoredGame,
    private readonly engine: string,
    private readonly settingsText: string,
    private readonly settings: SweepSettings,
    private readonly pool: EnginePool,
    signal: AbortSignal,
  ) {
    this.signal = AbortSignal.any([signal, this.cancelled.signal]);
  }

  get stopped(): boolean {
    return this.signal.aborted;
  }

  stop(): void {
    this.cancelled.abort();
  }

  /**
   * Searches a position; the result is being stored when this returns, so that the engine need not wait. Null when
   * called off: a search cut short is not stored.
   * @param known what the main search found, where that is known already
   */
  async search(
    position: SweepPosition,
    known: { depth: number; nodes: number } | null,
  ): Promise<{ stored: Promise<unknown> } | null> {
    const { kind } = this.game.record.tree;
    const { root, played } = position;
    const writes: Promise<void>[] = [];
    let main = known;
    let priced = known !== null;
    if (main === null) {
      const found = await this.pool.search(
        mainRequest(kind, root, this.settings),
        this.signal,
        'background',
      );
      if (this.stopped) return null;
      writes.push(this.store(position, '', found));
      main = found;
      priced = played !== null && !holdsMove(found.lines, played);
    }
    if (priced && played !== null) {
      const request = pricingRequest(kind, root, played, main);
      const info = await this.pool.search(request, this.signal, 'background');
      if (this.stopped) return null;
      writes.push(this.store(position, played, info));
    }
    return { stored: Promise.all(writes) };
  }

  private store(
    { key, history }: SweepPosition,
    onlyMove: string,
    info: SearchInfo,
  ): Promise<void> {
    const { kind } = this.game.record.tree;
    return storeEvaluation(
      { kind, key, history, engine: this.engine, settings: this.settingsText, onlyMove },
      foundBy(info),
    );
  }
}
