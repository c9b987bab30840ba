import pg from 'pg';
import { databaseUrl } from '@/server/database';
import { WORKER_LOCK } from '@/server/health';
import { logger } from '@/server/log';
import { inTurn } from './session';

const CHECK_MS = 2000;
/** A worker whose session has been silent for so long stands still: one that lives speaks at every check. */
const FROZEN_MS = 15_000;

/**
 * Lets other workers know that this one lives, and frees the jobs of those that died or stand still: each worker holds an advisory
 * lock under its name, which the database drops when the process is gone.
 */
export class Liveness {
  private readonly client = new pg.Client({ connectionString: databaseUrl() });
  /** Whose locks tell that this worker lives, and what it searches. */
  readonly session = inTurn(this.client);
  private readonly own = new Set<string>();
  private timer: NodeJS.Timeout | null = null;

  /** @param onLost called when the connection, and with it the locks, is gone: the process should end */
  async start(onLost: () => void): Promise<void> {
    this.client.on('error', onLost);
    await this.client.connect();
    await this.session.query('select pg_advisory_lock_shared(hashtextextended($1, 0))', [
      WORKER_LOCK,
    ]);
    this.schedule();
  }

  /** Queries of the one connection, one after the other. */
  private last: Promise<unknown> = Promise.resolve();

  register(workerId: string): Promise<unknown> {
    this.own.add(workerId);
    this.last = this.last.then(() =>
      this.session.query('select pg_advisory_lock(hashtextextended($1, 0))', [workerId]),
    );
    return this.last;
  }

  private schedule(): void {
    this.timer = setTimeout(() => {
      this.last = this.last
        // a check that failed is no reason to leave out the next
        .catch(() => undefined)
        .then(() => this.freeJobsOfTheDead())
        .then(() => this.endTheFrozen());
      this.last
        .catch((error: unknown) => logger('worker').error({ err: error }, 'liveness check failed'))
        .finally(() => this.schedule());
    }, CHECK_MS);
  }

  /** A worker that stands still keeps its locks: without its session it counts as dead, and ends when it goes on. */
  private async endTheFrozen(): Promise<void> {
    const { rows } = await this.session.query<{ pid: number }>(
      `select pid, pg_terminate_backend(pid)
        from pg_locks join pg_stat_activity using (pid), hashtextextended($1, 0) as key
        where locktype = 'advisory' and objsubid = 1 and granted
          and database = (select oid from pg_database where datname = current_database())
          and classid = ((key >> 32) & 4294967295)::oid and objid = (key & 4294967295)::oid
          and state_change < now() - $2 * interval '1 millisecond'`,
      [WORKER_LOCK, FROZEN_MS],
    );
    for (const { pid } of rows)
      logger('worker').warn({ pid }, 'ended the session of a frozen worker');
  }

  private async freeJobsOfTheDead(): Promise<void> {
    const { rows } = await this.session.query<{ locked_by: string }>(
      'select distinct locked_by from graphile_worker.jobs where locked_by is not null',
    );
    for (const { locked_by: workerId } of rows) {
      if (this.own.has(workerId)) continue;
      const { rows: locks } = await this.session.query<{ dead: boolean }>(
        'select pg_try_advisory_lock(hashtextextended($1, 0)) as dead',
        [workerId],
      );
      if (!locks[0]?.dead) continue;
      await this.session.query('select graphile_worker.force_unlock_workers($1)', [[workerId]]);
      await this.session.query('select pg_advisory_unlock(hashtextextended($1, 0))', [workerId]);
      logger('worker').warn({ workerId }, 'freed the jobs of a dead worker');
    }
  }

  async stop(): Promise<void> {
    if (this.timer) clearTimeout(this.timer);
    this.client.removeAllListeners('error');
    this.client.on('error', () => {});
    await this.client.end();
  }
}
