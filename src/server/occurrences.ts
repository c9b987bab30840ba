import { and, desc, eq, ne, sql } from 'drizzle-orm';
import type * as z from 'zod';
import { occurrenceSchema } from '@/contract/games';
import type { GameKind, Position } from '@/core/game/ruleset';
import { mainLine, positionsAlong } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';
import { database } from './database';
import { GAME } from './game-rows';
import { recordOf } from './games';
import { playedGames } from './chosen-games';
import type { OwnerRef } from './owner';
import { KEY_BYTES, keyBytes } from './prepared-game';
import { gameKeys, gameRecords, games } from './schema';

/** A stored game in which a position came up. */
type Occurrence = z.infer<typeof occurrenceSchema>;

const MOST = 50;

/** Where else the owner had a position, in the main lines of other games, the latest first. */
export async function occurrencesOf(
  owner: OwnerRef,
  kind: GameKind,
  position: Position,
  exceptGame: number,
): Promise<{ occurrences: Occurrence[]; total: number }> {
  const ruleset = rulesetOf(kind);
  const key = keyBytes(ruleset.key(position));
  const place = sql<number>`position(${key}::bytea in ${gameKeys.keys})`;
  const rows = await database()
    .select({
      game: GAME,
      ply: sql<number>`((${place} - 1) / ${KEY_BYTES}::integer)::integer`,
      total: sql<number>`(count(*) over ())::int`,
    })
    .from(gameKeys)
    .innerJoin(games, eq(games.id, gameKeys.gameId))
    .innerJoin(gameRecords, eq(gameRecords.gameId, games.id))
    .where(
      and(
        eq(gameKeys.ownerId, owner.id),
        sql`${place} > 0`,
        playedGames(owner),
        eq(games.kind, kind),
        ne(games.id, exceptGame),
      ),
    )
    .orderBy(sql`${games.date} desc nulls last`, desc(games.id))
    .limit(MOST);
  const occurrences = rows.map(({ game, ply }): Occurrence => {
    const { tree } = recordOf(game);
    const line = mainLine(tree);
    const at = positionsAlong(ruleset, tree.start, line.slice(0, ply)).at(-1)!;
    const next = line[ply];
    return {
      gameId: game.id,
      node: ply === 0 ? 0 : line[ply - 1]!.id,
      players: [game.firstPlayer, game.secondPlayer],
      result: game.result,
      date: game.date,
      event: game.event,
      next: next ? ruleset.text(at, next.move) : null,
    };
  });
  return { occurrences, total: rows[0]?.total ?? 0 };
}
