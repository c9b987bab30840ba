import { asc, eq, getTableColumns, gt, and, type SQL } from 'drizzle-orm';
import { database, type Database, type Transaction } from './database';
import { gameRecords, games } from './schema';

/** All that is stored of a game itself. */
export const GAME = {
  ...getTableColumns(games),
  nodes: gameRecords.nodes,
  tags: gameRecords.tags,
};
export type GameRow = typeof games.$inferSelect &
  Pick<typeof gameRecords.$inferSelect, 'nodes' | 'tags'>;

/** What a game's row says of its record. */
export type RecordRow = Pick<GameRow, 'kind' | 'start' | 'nodes' | 'tags' | 'result' | 'endReason'>;

/** Whole games, for a condition to be added. */
export const selectGames = (db: Database | Transaction = database()) =>
  db.select(GAME).from(games).innerJoin(gameRecords, eq(gameRecords.gameId, games.id));

/** Whole games that are read at a time, and rows of lists. */
const BATCH = 50;
const LIST_BATCH = 1000;

/** Games that a condition holds, some at a time, in the order in which they came. */
export const gameBatches = (which: SQL): AsyncGenerator<GameRow[]> =>
  inBatches((last) =>
    selectGames()
      .where(and(which, gt(games.id, last)))
      .orderBy(asc(games.id))
      .limit(BATCH),
  );

/** The same without their moves. */
export const listBatches = (which: SQL): AsyncGenerator<(typeof games.$inferSelect)[]> =>
  inBatches((last) =>
    database()
      .select()
      .from(games)
      .where(and(which, gt(games.id, last)))
      .orderBy(asc(games.id))
      .limit(LIST_BATCH),
  );

async function* inBatches<Row extends { id: number }>(
  behind: (id: number) => PromiseLike<Row[]>,
): AsyncGenerator<Row[]> {
  for (let last = 0; ;) {
    const rows = await behind(last);
    if (rows.length === 0) return;
    yield rows;
    last = rows.at(-1)!.id;
  }
}
