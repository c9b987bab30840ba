import { pool } from '@/server/database';

/** Does something unless another worker is at it. @param name of what is done by one alone */
export async function alone(name: string, work: () => Promise<void>): Promise<void> {
  const client = await pool().connect();
  try {
    const { rows } = await client.query<{ mine: boolean }>(
      'select pg_try_advisory_lock(hashtextextended($1, 0)) as mine',
      [name],
    );
    if (!rows[0]!.mine) return;
    try {
      await work();
    } finally {
      await client.query('select pg_advisory_unlock(hashtextextended($1, 0))', [name]);
    }
  } finally {
    client.release();
  }
}
