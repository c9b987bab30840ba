import { eq, isNull } from 'drizzle-orm';
import { gameInfo } from '@/core/game/info';
import { database } from './database';
import { gameBatches } from './game-rows';
import { recordOf } from './games';
import { searchedOf } from './prepared-game';
import { games } from './schema';

/** Gives games that were stored before it what searches look at, and says whether they are annotated. */
export async function fillSearched(): Promise<void> {
  for await (const rows of gameBatches(isNull(games.searchText)))
    for (const row of rows) {
      const record = recordOf(row);
      await database()
        .update(games)
        .set(searchedOf(record, gameInfo(record)))
        .where(eq(games.id, row.id));
    }
}
