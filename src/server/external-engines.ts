import { inArray, notInArray, sql } from 'drizzle-orm';
import type { OfferedEngine } from '@/contract/studies';
import type { GameKind } from '@/core/game/ruleset';
import { database } from './database';
import { enginesFor } from './engines-file';
import type { Owner } from './owner';
import { externalEngines } from './schema';

/** The external engines that a player may use for a game, as the worker found them. */
export async function offeredEngines(owner: Owner, kind: GameKind): Promise<OfferedEngine[]> {
  const configured = enginesFor(owner, kind);
  if (configured.length === 0) return [];
  const names = configured.map(({ name }) => name);
  const rows = await database()
    .select()
    .from(externalEngines)
    .where(inArray(externalEngines.name, names));
  return configured.map(({ name, options: set }) => {
    const row = rows.find((one) => one.name === name);
    return { name, set, options: row?.options ?? [], problem: row ? row.problem : 'not tried yet' };
  });
}

/** For the worker: keeps what it found of an engine. */
export async function recordEngine(
  engine: Pick<typeof externalEngines.$inferInsert, 'name' | 'options' | 'problem'>,
): Promise<void> {
  await database()
    .insert(externalEngines)
    .values({ ...engine, problem: engine.problem ?? null })
    .onConflictDoUpdate({
      target: externalEngines.name,
      set: { options: engine.options, problem: engine.problem ?? null, checkedAt: sql`now()` },
    });
}

/** For the worker: forgets engines that the file no longer names. */
export async function forgetEnginesBut(names: readonly string[]): Promise<void> {
  await database()
    .delete(externalEngines)
    .where(notInArray(externalEngines.name, [...names, '']));
}
