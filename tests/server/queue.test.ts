import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeBase } from '@/server/bases';
import { closeDatabase, database, migrateDatabase } from '@/server/database';
import type { ImportWishes } from '@/server/imports';
import type { Owner } from '@/server/owner';
import { IMPORT_LANES } from '@/server/queue';
import { newAccount } from '../support/accounts';
import { useOwnDatabase } from '../support/database';
import { queued } from '../support/imports';

const LONG = 16 * 1024 * 1024;

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('files that wait to be read', () => {
  let owners: Owner[] = [];
  beforeAll(async () => {
    await useOwnDatabase('queue_test');
    await migrateDatabase();
    owners = [await newAccount('First'), await newAccount('Second')];
  });
  afterAll(closeDatabase);

  async function filesBase(owner: Owner): Promise<number> {
    const made = await makeBase(owner, { name: 'Club', kind: 'chess', source: { from: 'files' } });
    if (typeof made === 'string') throw new Error(made);
    return made.id;
  }

  /** How a file of so many bytes is queued. */
  async function placeOf(
    owner: Owner,
    bytes: number,
    wishes: ImportWishes = {},
  ): Promise<{ priority: number; lane: string | null }> {
    const { id } = await queued(owner, 'a.pgn', [new Uint8Array(bytes)], wishes);
    const { rows } = await database().execute<{ priority: number; lane: string | null }>(
      sql`select priority, queue_name as lane from graphile_worker.jobs where key = ${`import:${id}`}`,
    );
    return rows[0]!;
  }

  it('are in a lane where they take long, or fill a base, or nobody waits; others begin whenever there is room', async () => {
    const [owner] = owners as [Owner];
    const base = await filesBase(owner);
    expect((await placeOf(owner, LONG - 1)).lane).toBeNull();
    expect((await placeOf(owner, LONG)).lane).toBe(IMPORT_LANES.library);
    expect((await placeOf(owner, 1, { base })).lane).toBe(IMPORT_LANES.base);
    expect((await placeOf(owner, LONG, { base })).lane).toBe(IMPORT_LANES.longBase);
    expect((await placeOf(owner, 1, { base, isUnhurried: true })).lane).toBe(IMPORT_LANES.nobody);
    expect((await placeOf(owner, LONG, { isUnhurried: true })).lane).toBe(IMPORT_LANES.nobody);
  });

  it('go before those for bases, and these before what nobody waits for; the first of one before the second of another', async () => {
    const [first, second] = owners as [Owner, Owner];
    const base = await filesBase(second);
    const one = await placeOf(second, 1);
    const two = await placeOf(second, 1);
    expect(one.priority).toBeLessThan(two.priority);
    const third = await newAccount('Third');
    expect((await placeOf(third, 1)).priority).toBe(one.priority);
    const forBase = await placeOf(second, 1, { base });
    const others = await placeOf(first, 1);
    expect(others.priority).toBeLessThan(forBase.priority);
    expect((await placeOf(third, 1, { isUnhurried: true })).priority).toBeGreaterThan(
      forBase.priority,
    );
  });
});
