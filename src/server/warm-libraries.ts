import { and, desc, eq, gt, isNull, max, sql } from 'drizzle-orm';
import { database } from './database';
import { libraryOf } from './library-index';
import { OWNER } from './owner';
import { owners, sessions } from './schema';

/** Games that are read before anybody asks for them, some 300 bytes each, and people whose they are; a single library may exceed it. */
const WARM_GAMES = 2 ** 19;
const WARM_PEOPLE = 500;

/** Reads the libraries of those who are signed in, who came last first, so that nobody's first view after a start waits for that. Returns how many games they have. */
export async function warmLibraries(mostGames = WARM_GAMES): Promise<number> {
  const comers = await database()
    .select(OWNER)
    .from(owners)
    .innerJoin(sessions, eq(sessions.userId, owners.id))
    .where(and(gt(sessions.expiresAt, sql`now()`), isNull(owners.closedAt)))
    .groupBy(owners.id)
    .orderBy(desc(max(sessions.createdAt)))
    .limit(WARM_PEOPLE);
  let games = 0;
  for (const owner of comers) {
    if (games >= mostGames) break;
    games += (await libraryOf(owner)).size;
  }
  return games;
}
