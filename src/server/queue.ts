import { sql } from 'drizzle-orm';
import { database, type Database, type Transaction } from './database';

/** A batch is no job: its sweeps are. */
export const JOB_NAMES = ['import', 'sweep', 'study', 'proof', 'base'] as const;
export type JobName = (typeof JOB_NAMES)[number];

/** What workers take, each with slots of its own: a sweep of one game does not wait until one of a batch is over. */
export const TASK_NAMES = [...JOB_NAMES, 'batch'] as const;
export type TaskName = (typeof TASK_NAMES)[number];

/** A job that was begun so often and always ended with its worker is given up. */
const MOST_ATTEMPTS = 50;

/** From that place on, batches take turns, and so do files. */
const MOST_PLACES = 1000;

/**
 * Queues a job; it appears to workers when the transaction commits.
 * @param lane jobs in the same lane run one after the other, whatever worker takes them; null: whenever one is free
 * @param priority among jobs of its kind; lower numbers run first
 */
export async function enqueue(
  db: Database | Transaction,
  name: JobName,
  id: number,
  lane: string | null = null,
  priority = 0,
): Promise<void> {
  await db.execute(
    sql`select graphile_worker.add_job(${name}, ${JSON.stringify({ id })}::json, job_key := ${`${name}:${id}`}, queue_name := ${lane}, max_attempts := ${MOST_ATTEMPTS}, priority := ${priority})`,
  );
}

/** Who waits for the games of a file: their owner, whoever fills a base, or nobody, who would rather see their own first. */
type ImportFor = 'library' | 'base' | 'nobody';

/** Bytes from which on a file takes long: several wait for each other, and no other for them. */
const LONG_FILE = 16 * 1024 * 1024;
/** In which files come one after the other; the short ones of libraries are in none, so that one more slot than these is always free for them. */
export const IMPORT_LANES = {
  longLibrary: 'long files',
  base: 'files for bases',
  longBase: 'long files for bases',
  nobody: 'files that nobody waits for',
} as const;
const IMPORT_PRIORITY: Record<ImportFor, number> = {
  library: 0,
  base: MOST_PLACES,
  nobody: 2 * MOST_PLACES,
};

/** Queues an import. Who has files waiting lets the first one of somebody else go before them. @param bytes how large the file is */
export async function enqueueImport(
  db: Database | Transaction,
  id: number,
  waitedFor: ImportFor,
  bytes: number,
): Promise<void> {
  const priority = IMPORT_PRIORITY[waitedFor] + (await ownWaiting(db, id));
  await enqueue(db, 'import', id, importLane(waitedFor, bytes >= LONG_FILE), priority);
}

function importLane(waitedFor: ImportFor, isLong: boolean): string | null {
  if (waitedFor === 'library') return isLong ? IMPORT_LANES.longLibrary : null;
  return IMPORT_LANES[waitedFor === 'base' && isLong ? 'longBase' : waitedFor];
}

/** How many other files of the one whose import it is wait, so far as is counted. */
async function ownWaiting(db: Database | Transaction, id: number): Promise<number> {
  const { rows } = await db.execute<{ waiting: string }>(
    sql`select count(*) as waiting from (
      select from imports other join imports own using (owner_id)
      where own.id = ${id} and other.id <> own.id and other.state = 'queued' limit ${MOST_PLACES - 1}
    ) files`,
  );
  return Number(rows[0]!.waiting);
}

/** Queues the filling of a base; a worker leaves it where another is at it. @param hadTurn those that had none yet go first */
export const enqueueBase = (
  db: Database | Transaction,
  id: number,
  hadTurn = false,
): Promise<void> => enqueue(db, 'base', id, null, hadTurn ? 1 : 0);

/** Whether jobs of a kind, besides one, wait for a slot. */
export async function othersWait(name: JobName, id: number): Promise<boolean> {
  const { rows } = await database().execute(
    sql`select from graphile_worker.jobs where task_identifier = ${name} and key <> ${`${name}:${id}`} and locked_at is null and run_at <= now() limit 1`,
  );
  return rows.length > 0;
}

/** Whether a worker has taken a job. */
export async function isTaken(
  db: Database | Transaction,
  name: JobName,
  id: number,
): Promise<boolean> {
  const { rows } = await db.execute(
    sql`select from graphile_worker.jobs where key = ${`${name}:${id}`} and locked_at is not null`,
  );
  return rows.length > 0;
}

/** Takes a queued job back; one that runs is not touched. */
export async function dequeue(
  db: Database | Transaction,
  name: JobName,
  id: number,
): Promise<void> {
  await db.execute(sql`select graphile_worker.remove_job(${`${name}:${id}`})`);
}

/** The rank of a batch for which nobody waits: behind those of all owners. */
export const UNHURRIED = -1;

/** Sweeps of a batch that stand in the queue at a time: as many as four workers begin at once, few enough for the next owner's to wait for. */
const WINDOW = 16;

/**
 * Sees to it that the next sweeps of all batches under way stand in the queue, the latest games first, however many wait; those
 * of an owner's second batch behind those of the first. To be called whenever one may have left it.
 */
export async function feedBatches(db: Database | Transaction): Promise<void> {
  await db.execute(
    sql`select graphile_worker.add_job('batch', json_build_object('id', part.id), job_key := 'sweep:' || part.id, max_attempts := ${MOST_ATTEMPTS}, priority := batch.place::int, job_key_mode := 'preserve_run_at')
      from (
        select id, case rank when ${UNHURRIED} then ${MOST_PLACES}
          else least(row_number() over (partition by owner_id order by rank desc, id) - 1, ${MOST_PLACES - 1}) end as place
        from asks where plan = 'batch' and state = 'running'
          and exists (select from asks part where part.parent_id = asks.id and part.state = 'queued')
      ) batch cross join lateral (
        select id from asks where parent_id = batch.id and state = 'queued' order by id limit ${WINDOW}
      ) part
      where not exists (select from graphile_worker.jobs job where job.key = 'sweep:' || part.id and (job.locked_at is not null or job.priority = batch.place))`,
  );
}

/** Takes those of a batch back that no worker has begun. */
export async function dequeueBatch(db: Transaction, batch: number): Promise<void> {
  await db.execute(
    sql`select graphile_worker.remove_job(key) from graphile_worker.jobs
      where locked_at is null and key in (select 'sweep:' || id from asks where parent_id = ${batch} and state = 'queued')`,
  );
}
