import { sql } from 'drizzle-orm';
import { PLANS, type PlanName } from './schema';
import type { Database, Transaction } from './database';

export const JOB_NAMES = ['import', ...PLANS] as const;
export type JobName = 'import' | PlanName;

/** A job that was begun so often and always ended with its worker is given up. */
const MOST_ATTEMPTS = 50;

/** Lower numbers run first: people wait for an import, and sooner for one position than for a game. */
const PRIORITY: Record<JobName, number> = { import: 0, study: 5, sweep: 10 };

/**
 * Queues a job; it appears to workers when the transaction commits.
 * @param lane jobs in the same lane run one after the other, whatever worker takes them; null: whenever one is free
 */
export async function enqueue(
  db: Database | Transaction,
  name: JobName,
  id: number,
  lane: string | null = null,
): Promise<void> {
  await db.execute(
    sql`select graphile_worker.add_job(${name}, ${JSON.stringify({ id })}::json, job_key := ${`${name}:${id}`}, queue_name := ${lane}, max_attempts := ${MOST_ATTEMPTS}, priority := ${PRIORITY[name]})`,
  );
}

/** Takes a queued job back; one that runs is not touched. */
export async function dequeue(
  db: Database | Transaction,
  name: JobName,
  id: number,
): Promise<void> {
  await db.execute(sql`select graphile_worker.remove_job(${`${name}:${id}`})`);
}
