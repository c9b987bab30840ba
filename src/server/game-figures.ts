import { and, desc, eq, sql } from 'drizzle-orm';
import type { GameFilter } from '@/contract/game-filter';
import type { GameKind, Side } from '@/core/game/ruleset';
import type { Result } from '@/core/game/result';
import type { SideFigures } from '@/core/review/game-figures';
import type { Trend } from '@/core/review/summary';
import { database } from './database';
import { gamesOf } from './game-list';
import { ownSideOf } from './own-side';
import type { Owner } from './owner';
import { asks, games } from './schema';

/** So many games at most are set side by side. */
export const MOST_FIGURES = 500;

/** One side of a game that has been gone over. */
export interface FiguresRow {
  gameId: number;
  kind: GameKind;
  date: string | null;
  side: Side;
  player: string | null;
  opponent: string | null;
  result: Result;
  figures: SideFigures;
  trend: Trend | null;
}

/** The latest games of a filter that have been gone over: the owner's side of each, or both sides where that is not known. */
export async function listFigures(
  owner: Owner,
  filter: GameFilter,
): Promise<{ rows: FiguresRow[]; total: number }> {
  const latest = database()
    .selectDistinctOn([asks.gameId], { gameId: asks.gameId, figures: asks.figures })
    .from(asks)
    .where(
      and(
        eq(asks.ownerId, owner.id),
        eq(asks.plan, 'sweep'),
        eq(asks.state, 'done'),
        sql`figures is not null`,
      ),
    )
    .orderBy(asks.gameId, desc(asks.id))
    .as('latest');
  const wanted = gamesOf(owner, filter);
  const found = await database()
    .select({
      gameId: games.id,
      kind: games.kind,
      date: games.date,
      result: games.result,
      firstPlayer: games.firstPlayer,
      secondPlayer: games.secondPlayer,
      ownSide: games.ownSide,
      firstPlayerId: games.firstPlayerId,
      secondPlayerId: games.secondPlayerId,
      figures: latest.figures,
    })
    .from(games)
    .innerJoin(latest, eq(latest.gameId, games.id))
    .where(wanted)
    .orderBy(desc(sql`coalesce(${games.date}, '')`), desc(games.id))
    .limit(MOST_FIGURES);
  const rows = found.flatMap(
    ({ firstPlayer, secondPlayer, ownSide, firstPlayerId, secondPlayerId, figures, ...game }) => {
      const names = [firstPlayer, secondPlayer] as const;
      const own = ownSideOf(owner, { ownSide, firstPlayerId, secondPlayerId });
      const sides: readonly Side[] = own === null ? [0, 1] : [own];
      return sides.map((side): FiguresRow => ({
        ...game,
        side,
        player: names[side],
        opponent: names[side === 0 ? 1 : 0],
        figures: figures!.sides[side],
        trend: figures!.trend,
      }));
    },
  );
  return { rows, total: await database().$count(games, wanted) };
}
