import { and, desc, eq, inArray, sql } from 'drizzle-orm';
import type { Study } from '@/contract/studies';
import { pathTo } from '@/core/game/tree';
import { walk } from '@/core/game/walk';
import { settingsText, type SearchSettings } from '@/core/review/sweep-settings';
import { rulesetOf } from '@/core/rulesets';
import { addAsk, announceAsk, OPEN_STATES, removeAsk } from './asks';
import { database } from './database';
import { enginesFor } from './engines-file';
import { findGame, type StoredGame } from './games';
import type { Owner, OwnerRef } from './owner';
import { asks, type AskedPosition } from './schema';

const STUDY = {
  id: asks.id,
  // about a position of a game, as the table's checks say
  gameId: sql<number>`${asks.gameId}`.mapWith(Number),
  engine: asks.engine,
  state: asks.state,
  // every study has one
  position: sql<AskedPosition>`${asks.position}`,
  answer: asks.answer,
  error: asks.error,
};

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
  settings: SearchSettings;
}

/** Queues a search of one position; `refused` tells why it is not. */
export async function startStudy(
  owner: OwnerRef,
  /** Who asks for it. */
  by: Owner,
  gameId: number,
  { node, way, engine, settings }: StudyTask,
): Promise<{ study: Study } | { refused: 'missing' | 'unfit' | 'engine' | 'tooMany' }> {
  const game = await findGame(owner, gameId);
  if (!game?.record.tree.nodes.has(node)) return { refused: 'missing' };
  const { tree } = game.record;
  const ruleset = rulesetOf(tree.kind);
  const moves = [...pathTo(tree, node).map(({ move }) => ruleset.code(move)), ...way];
  if (!isPlayable(game, moves)) return { refused: 'unfit' };
  const external = enginesFor(by, tree.kind).find(({ name }) => name === engine);
  if (engine !== null && !external) return { refused: 'engine' };
  const study = await database().transaction(async (tx) => {
    // those who ask at once are counted one after the other
    await tx.execute(
      sql`select pg_advisory_xact_lock(hashtextextended(${`studies of ${owner.id}`}, 0))`,
    );
    const open = await tx.$count(
      asks,
      and(eq(asks.ownerId, owner.id), eq(asks.plan, 'study'), inArray(asks.state, OPEN_STATES)),
    );
    if (open >= MOST_OPEN) return null;
    return addAsk(
      tx,
      {
        ownerId: owner.id,
        gameId,
        plan: 'study',
        position: { node, moves },
        engine,
        settings: settingsText(settings),
        total: 1,
      },
      // so many lanes as may run at once
      (id) => (external ? `engine ${external.name} ${id % external.atOnce}` : null),
    );
  });
  if (!study) return { refused: 'tooMany' };
  await announceAsk(study);
  return { study: (await findStudy(owner, study.id))! };
}

function isPlayable({ record: { tree } }: StoredGame, moves: readonly string[]): boolean {
  const ruleset = rulesetOf(tree.kind);
  const start = ruleset.start(tree.start);
  const way = walk(ruleset, start, moves);
  return way.length === moves.length && ruleset.moves(way.at(-1)?.after ?? start).length > 0;
}

const ofOwner = (owner: OwnerRef) => and(eq(asks.ownerId, owner.id), eq(asks.plan, 'study'));

/** The studies of a game, the latest first. */
export const listStudies = (owner: OwnerRef, gameId: number): Promise<Study[]> =>
  database()
    .select(STUDY)
    .from(asks)
    .where(and(ofOwner(owner), eq(asks.gameId, gameId)))
    .orderBy(desc(asks.id))
    .limit(MOST_LISTED);

export async function findStudy(owner: OwnerRef, id: number): Promise<Study | null> {
  const [row] = await database()
    .select(STUDY)
    .from(asks)
    .where(and(ofOwner(owner), eq(asks.id, id)));
  return row ?? null;
}

/** Calls a study off, or takes a finished one away. */
export const removeStudy = (owner: OwnerRef, id: number): Promise<boolean> =>
  removeAsk(owner, 'study', id);
