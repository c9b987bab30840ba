import { and, asc, desc, eq, sql } from 'drizzle-orm';
import { ownEndings, type OwnEnding } from '@/core/endings/own-endings';
import type { GameKind, Side } from '@/core/game/ruleset';
import { playedGames } from './chosen-games';
import { database } from './database';
import type { Owner } from './owner';
import { ownSideSql } from './own-side';
import { endingSurveys, games, reachedEndings } from './schema';

/** An ending of one of the owner's games, with where it is found. */
export interface ListedEnding extends OwnEnding {
  gameId: number;
  node: number;
  kind: GameKind;
  side: Side;
  /** FEN or SFEN. */
  position: string;
  players: readonly [string | null, string | null];
  date: string | null;
  event: string | null;
}

/** Rows that are listed, those of the latest games. */
const MOST = 20_000;

/** The endings of the games that the owner played, those of the latest games first; null before their games have been looked through. */
export async function listOwnEndings(owner: Owner): Promise<ListedEnding[] | null> {
  const side = ownSideSql(owner);
  const rows = await database()
    .select({
      gameId: games.id,
      kind: games.kind,
      result: games.result,
      side,
      first: games.firstPlayer,
      second: games.secondPlayer,
      date: games.date,
      event: games.event,
      ply: reachedEndings.ply,
      node: reachedEndings.node,
      name: reachedEndings.name,
      position: reachedEndings.position,
      worth: reachedEndings.worth,
      isPassing: reachedEndings.isPassing,
      isLetGo: reachedEndings.isLetGo,
    })
    .from(reachedEndings)
    .innerJoin(games, eq(games.id, reachedEndings.gameId))
    .where(and(playedGames(owner), sql`${side} is not null`))
    .orderBy(sql`${games.date} desc nulls last`, desc(games.id), asc(reachedEndings.ply))
    .limit(MOST);
  if (rows.length === 0 && !(await isSurveyed(owner))) return null;
  const byGame = new Map<number, typeof rows>();
  for (const row of rows) byGame.set(row.gameId, [...(byGame.get(row.gameId) ?? []), row]);
  return [...byGame.values()].flatMap((some) => {
    const { gameId, kind, result, side: own, first, second, date, event } = some[0]!;
    const places = new Map(some.map(({ ply, node, position }) => [ply, { node, position }]));
    return ownEndings(some, result, own!).map((ending) => ({
      ...ending,
      ...{ gameId, kind, date, event, side: own!, players: [first, second] as const },
      ...places.get(ending.ply)!,
    }));
  });
}

async function isSurveyed(owner: Owner): Promise<boolean> {
  const [survey] = await database()
    .select({ seen: endingSurveys.seen })
    .from(endingSurveys)
    .where(eq(endingSurveys.ownerId, owner.id));
  return survey !== undefined;
}
