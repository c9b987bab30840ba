import { and, asc, eq, getTableColumns, inArray, type SQL } from 'drizzle-orm';
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
  inBatches(which, BATCH, (some) => selectGames().where(some).orderBy(asc(games.id)));

/** The same without their moves. */
export const listBatches = (which: SQL): AsyncGenerator<(typeof games.$inferSelect)[]> =>
  inBatches(which, LIST_BATCH, (some) =>
    database().select().from(games).where(some).orderBy(asc(games.id)),
  );

/** They are found once, since that may take looking at all games; those that no longer suit when their turn comes are left out. */
async function* inBatches<Row>(
  which: SQL,
  size: number,
  read: (some: SQL) => PromiseLike<Row[]>,
): AsyncGenerator<Row[]> {
  const found = await database()
    .select({ id: games.id })
    .from(games)
    .where(which)
    .orderBy(asc(games.id));
  for (let at = 0; at < found.length; at += size) {
    const ids = found.slice(at, at + size).map(({ id }) => id);
    const rows = await read(and(which, inArray(games.id, ids))!);
    if (rows.length > 0) yield rows;
  }
}
