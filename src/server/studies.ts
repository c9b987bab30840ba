import { and, desc, eq, sql } from 'drizzle-orm';
import type { Study } from '@/contract/studies';
import { settingsText, type SearchSettings } from '@/core/review/sweep-settings';
import { addCountedAsk, movesTo, removeAsk } from './asks';
import { database } from './database';
import { enginesFor } from './engines-file';
import { findGame } from './games';
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
  const moves = movesTo(game, node, way);
  if (!moves) return { refused: 'unfit' };
  const external = enginesFor(by, game.record.tree.kind).find(({ name }) => name === engine);
  if (engine !== null && !external) return { refused: 'engine' };
  const study = await addCountedAsk(
    {
      ownerId: owner.id,
      gameId,
      plan: 'study',
      position: { node, moves },
      engine,
      settings: settingsText(settings),
      total: 1,
    },
    MOST_OPEN,
    // so many lanes as may run at once
    (id) => (external ? `engine ${external.name} ${id % external.atOnce}` : null),
  );
  if (!study) return { refused: 'tooMany' };
  return { study: (await findStudy(owner, study.id))! };
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
