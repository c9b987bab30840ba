import { and, eq, ne, or, sql, type SQL } from 'drizzle-orm';
import { database } from './database';
import { playedGames, presentGames } from './chosen-games';
import type { OwnerRef } from './owner';
import { games } from './schema';

/** Games beside one: where to go on from it. */
export interface Neighbours {
  /** The two players, and how many other games they have with each other. */
  meetings: { players: [number, number]; games: number } | null;
  /** How it was opened, as `openingText` writes it, and how many other games were opened so. */
  opening: { text: string; games: number } | null;
  /** Of the same event, the game before and after by date and number. */
  previous: number | null;
  next: number | null;
}

/** What is beside one of the owner's games. */
export async function neighboursOf(owner: OwnerRef, id: number): Promise<Neighbours> {
  const [game] = await database()
    .select({
      event: games.event,
      date: games.date,
      first: games.firstPlayerId,
      second: games.secondPlayerId,
      opening: games.opening,
    })
    .from(games)
    .where(and(presentGames(owner), eq(games.id, id)));
  if (!game) return { meetings: null, opening: null, previous: null, next: null };
  const { event, date, first, second, opening } = game;
  const place = sql`(coalesce(${games.date}, ''), ${games.id})`;
  const here = sql`(${date ?? ''}, ${id}::bigint)`;
  const ofEvent = async (way: SQL, order: SQL): Promise<number | null> => {
    if (event === null) return null;
    const [beside] = await database()
      .select({ id: games.id })
      .from(games)
      .where(and(playedGames(owner), eq(games.event, event), sql`${place} ${way} ${here}`))
      .orderBy(sql`coalesce(${games.date}, '') ${order}`, sql`${games.id} ${order}`)
      .limit(1);
    return beside?.id ?? null;
  };
  const meet = async (one: number, other: number): Promise<Neighbours['meetings']> => ({
    players: [one, other],
    games: await database().$count(
      games,
      and(
        playedGames(owner),
        ne(games.id, id),
        or(
          and(eq(games.firstPlayerId, one), eq(games.secondPlayerId, other)),
          and(eq(games.firstPlayerId, other), eq(games.secondPlayerId, one)),
        ),
      ),
    ),
  });
  return {
    meetings: first === null || second === null ? null : await meet(first, second),
    opening: opening
      ? {
          text: opening,
          games: await database().$count(
            games,
            and(playedGames(owner), ne(games.id, id), eq(games.opening, opening)),
          ),
        }
      : null,
    previous: await ofEvent(sql`<`, sql`desc`),
    next: await ofEvent(sql`>`, sql`asc`),
  };
}
