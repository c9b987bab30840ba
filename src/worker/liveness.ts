import pg from 'pg';
import { databaseUrl } from '@/server/database';
import { WORKER_LOCK } from '@/server/health';
import { logger } from '@/server/log';

const CHECK_MS = 2000;

/**
 * Lets other workers know that this one lives, and frees the jobs of those that died: each worker holds an advisory
 * lock under its name, which the database drops when the process is gone.
 */
export class Liveness {
  private readonly client = new pg.Client({ connectionString: databaseUrl() });
  private readonly own = new Set<string>();
  private timer: NodeJS.Timeout | null = null;

  /** @param onLost called when the connection, and with it the locks, is gone: the process should end */
  async start(onLost: () => void): Promise<void> {
    this.client.on('error', onLost);
    await this.client.connect();
    await this.client.query('select pg_advisory_lock_shared(hashtextextended($1, 0))', [
      WORKER_LOCK,
    ]);
    this.schedule();
  }

  /** Queries of the one connection, one after the other. */
  private last: Promise<unknown> = Promise.resolve();

  register(workerId: string): Promise<unknown> {
    this.own.add(workerId);
    this.last = this.last.then(() =>
      this.client.query('select pg_advisory_lock(hashtextextended($1, 0))', [workerId]),
    );
    return this.last;
  }

  private schedule(): void {
    this.timer = setTimeout(() => {
      this.last = this.last.then(() => this.freeJobsOfTheDead());
      this.last
        .catch((error: unknown) => logger('worker').error({ err: error }, 'liveness check failed'))
        .finally(() => this.schedule());
    }, CHECK_MS);
  }

  private async freeJobsOfTheDead(): Promise<void> {
    const { rows } = await this.client.query<{ locked_by: string }>(
      'select distinct locked_by from graphile_worker.jobs where locked_by is not null',
    );
    for (const { locked_by: workerId } of rows) {
      if (this.own.has(workerId)) continue;
      const { rows: locks } = await this.client.query<{ dead: boolean }>(
        'select pg_try_advisory_lock(hashtextextended($1, 0)) as dead',
        [workerId],
      );
      if (!locks[0]?.dead) continue;
      await this.client.query('select graphile_worker.force_unlock_workers($1)', [[workerId]]);
      await this.client.query('select pg_advisory_unlock(hashtextextended($1, 0))', [workerId]);
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
