import { and, asc, gt, type SQL } from 'drizzle-orm';
import { database } from './database';
import { games } from './schema';

export type GameRow = typeof games.$inferSelect;

/** Games read at a time. */
const BATCH = 50;

/** Games that a condition holds, some at a time, in the order in which they came. */
export async function* gameBatches(which: SQL): AsyncGenerator<GameRow[]> {
  for (let last = 0; ;) {
    const rows = await database()
      .select()
      .from(games)
      .where(and(which, gt(games.id, last)))
      .orderBy(asc(games.id))
      .limit(BATCH);
    if (rows.length === 0) return;
    yield rows;
    last = rows.at(-1)!.id;
  }
}
