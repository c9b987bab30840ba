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
  let owner: Owner;
  beforeAll(async () => {
    await useOwnDatabase('queue_test');
    await migrateDatabase();
    owner = await newAccount('Owner');
  });
  afterAll(closeDatabase);

  /** The lane of a file of so many bytes. */
  async function laneOf(bytes: number, wishes: ImportWishes = {}): Promise<string | null> {
    const { id } = await queued(owner, 'a.pgn', [new Uint8Array(bytes)], wishes);
    const { rows } = await database().execute<{ lane: string | null }>(
      sql`select queue_name as lane from graphile_worker.jobs where key = ${`import:${id}`}`,
    );
    return rows[0]!.lane;
  }

  it('are in a lane where they take long, or fill a base, or nobody waits; others begin whenever there is room', async () => {
    const made = await makeBase(owner, { name: 'Club', kind: 'chess', source: { from: 'files' } });
    if (typeof made === 'string') throw new Error(made);
    const base = made.id;
    expect(await laneOf(LONG - 1)).toBeNull();
    expect(await laneOf(LONG)).toBe(IMPORT_LANES.longLibrary);
    expect(await laneOf(1, { base })).toBe(IMPORT_LANES.base);
    expect(await laneOf(LONG, { base })).toBe(IMPORT_LANES.longBase);
    expect(await laneOf(1, { base, isUnhurried: true })).toBe(IMPORT_LANES.nobody);
    expect(await laneOf(LONG, { isUnhurried: true })).toBe(IMPORT_LANES.nobody);
  });
});
