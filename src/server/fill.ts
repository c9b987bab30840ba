import { eq, isNull, notLike, sql } from 'drizzle-orm';
import { gameInfo } from '@/core/game/info';
import { database } from './database';
import { gameBatches } from './game-rows';
import { recordOf } from './games';
import { fingerprintOf, FINGERPRINTS, openingOf, searchedOf } from './prepared-game';
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

/** Gives games that were stored before it the name of their opening. */
export async function fillOpenings(): Promise<void> {
  for await (const rows of gameBatches(isNull(games.opening)))
    for (const row of rows)
      await database()
        .update(games)
        .set({ opening: openingOf(recordOf(row)) })
        .where(eq(games.id, row.id));
}

/** Gives games whose fingerprint was made otherwise one as they are made now; of two that are the same now, one becomes a copy of the other. */
export async function fillFingerprints(): Promise<void> {
  for await (const rows of gameBatches(notLike(games.fingerprint, `${FINGERPRINTS}%`)))
    for (const row of rows) {
      const record = recordOf(row);
      const plain = fingerprintOf(record, gameInfo(record));
      const isCopy = sql`position(':' in ${games.fingerprint}) > 0 or exists (
        select from games as other where other.owner_id = ${row.ownerId} and other.fingerprint = ${plain})`;
      await database()
        .update(games)
        .set({
          fingerprint: sql`${plain}::text || case when ${isCopy} then ':' || gen_random_uuid() else '' end`,
        })
        .where(eq(games.id, row.id));
    }
}
