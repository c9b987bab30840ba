import { and, desc, eq, inArray, notInArray, sql } from 'drizzle-orm';
import { pathTo } from '@/core/game/tree';
import { settingsText, type SweepSettings } from '@/core/review/sweep-settings';
import { rulesetOf } from '@/core/rulesets';
import { database } from './database';
import { enginesFor } from './engines-file';
import { announce } from './events';
import { findGame, type StoredGame } from './games';
import type { Owner } from './owner';
import { dequeue, enqueue } from './queue';
import { externalEngines, studies } from './schema';

export type Study = Omit<
  typeof studies.$inferSelect,
  'ownerId' | 'createdAt' | 'finishedAt' | 'failures'
>;

const OPEN: Study['state'][] = ['queued', 'running'];
const MOST_LISTED = 100;
/** As many studies as one owner may have waiting or running. */
const MOST_OPEN = 20;

export interface StudyTask {
  /** The node of the game. */
  node: number;
  /** The way from it, in UCI or USI. */
  way: readonly string[];
  /** Name of an external engine; null: our own. */
  engine: string | null;
  settings: SweepSettings;
}

/** Queues a search of one position; `refused` tells why it is not. */
export async function startStudy(
  owner: Owner,
  gameId: number,
  { node, way, engine, settings }: StudyTask,
): Promise<{ study: Study } | { refused: 'missing' | 'unfit' | 'engine' | 'tooMany' }> {
  const game = await findGame(owner, gameId);
  if (!game?.record.tree.nodes.has(node)) return { refused: 'missing' };
  const { tree } = game.record;
  const ruleset = rulesetOf(tree.kind);
  const moves = [...pathTo(tree, node).map(({ move }) => ruleset.code(move)), ...way];
  if (!isPlayable(game, moves)) return { refused: 'unfit' };
  const external = enginesFor(owner, tree.kind).find(({ name }) => name === engine);
  if (engine !== null && !external) return { refused: 'engine' };
  const study = await database().transaction(async (tx) => {
    // those who ask at once are counted one after the other
    await tx.execute(
      sql`select pg_advisory_xact_lock(hashtextextended(${`studies of ${owner.id}`}, 0))`,
    );
    const open = await tx.$count(
      studies,
      and(eq(studies.ownerId, owner.id), inArray(studies.state, OPEN)),
    );
    if (open >= MOST_OPEN) return null;
    const [created] = await tx
      .insert(studies)
      .values({ ownerId: owner.id, gameId, node, moves, engine, settings: settingsText(settings) })
      .returning();
    const { id } = created!;
    // so many lanes as may run at once
    const lane = external ? `engine ${external.name} ${id % external.atOnce}` : null;
    await enqueue(tx, 'study', id, lane);
    return created!;
  });
  if (!study) return { refused: 'tooMany' };
  await announce({ owner: owner.id, type: 'study', id: study.id, gameId });
  return { study };
}

function isPlayable({ record: { tree } }: StoredGame, moves: readonly string[]): boolean {
  const ruleset = rulesetOf(tree.kind);
  let position = ruleset.start(tree.start);
  for (const code of moves) {
    const move = ruleset.parseCode(code);
    if (move === null || !ruleset.isLegal(position, move)) return false;
    position = ruleset.play(position, move);
  }
  return ruleset.moves(position).length > 0;
}

/** The studies of a game, the latest first. */
export async function listStudies(owner: Owner, gameId: number): Promise<Study[]> {
  return database()
    .select()
    .from(studies)
    .where(and(eq(studies.ownerId, owner.id), eq(studies.gameId, gameId)))
    .orderBy(desc(studies.id))
    .limit(MOST_LISTED);
}

export async function findStudy(owner: Owner, id: number): Promise<Study | null> {
  const [row] = await database()
    .select()
    .from(studies)
    .where(and(eq(studies.ownerId, owner.id), eq(studies.id, id)));
  return row ?? null;
}

/** Calls a study off, or takes a finished one away. */
export async function removeStudy(owner: Owner, id: number): Promise<boolean> {
  const db = database();
  const removed = await db.transaction(async (tx) => {
    const [row] = await tx
      .delete(studies)
      .where(and(eq(studies.ownerId, owner.id), eq(studies.id, id)))
      .returning();
    if (row) await dequeue(tx, 'study', id);
    return row;
  });
  if (!removed) return false;
  const { gameId } = removed;
  await announce({ owner: owner.id, type: 'study', id, gameId, cancelled: true });
  return true;
}

/** For the worker: a study with its game; null once it is no longer open. */
export async function openStudy(
  id: number,
): Promise<{ study: typeof studies.$inferSelect; game: StoredGame } | null> {
  const [study] = await database()
    .select()
    .from(studies)
    .where(and(eq(studies.id, id), inArray(studies.state, OPEN)));
  if (!study) return null;
  const game = await findGame({ id: study.ownerId, playerName: '' }, study.gameId);
  return game && { study, game };
}

type Found = Partial<Pick<Study, 'state' | 'depth' | 'nodes' | 'milliseconds' | 'lines' | 'error'>>;

/** For the worker: records what has been found so far; false once the study is no longer wanted. */
export async function recordStudy(id: number, found: Found): Promise<boolean> {
  const done = found.state === 'done' || found.state === 'failed';
  const [row] = await database()
    .update(studies)
    .set({ ...found, ...(done ? { finishedAt: sql`now()` } : {}) })
    .where(and(eq(studies.id, id), inArray(studies.state, OPEN)))
    .returning();
  if (!row) return false;
  await announce({ owner: row.ownerId, type: 'study', id, gameId: row.gameId, done });
  return true;
}

/** For the worker: another attempt went wrong; how many have in all. */
export async function countStudyFailure(id: number): Promise<number> {
  const [row] = await database()
    .update(studies)
    .set({ failures: sql`failures + 1` })
    .where(eq(studies.id, id))
    .returning({ failures: studies.failures });
  return row?.failures ?? 0;
}

/** An external engine as the people who may use it see it. */
export interface OfferedEngine {
  name: string;
  /** What it offers to set, and what the server's file sets. */
  options: (typeof externalEngines.$inferSelect)['options'];
  set: Readonly<Record<string, string>>;
  problem: string | null;
}

/** The external engines that a player may use for a game, as the worker found them. */
export async function offeredEngines(
  owner: Owner,
  kind: 'chess' | 'shogi',
): Promise<OfferedEngine[]> {
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
