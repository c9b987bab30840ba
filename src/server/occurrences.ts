import { and, desc, eq, ne, sql } from 'drizzle-orm';
import type * as z from 'zod';
import { occurrenceSchema } from '@/contract/games';
import type { GameKind, Position } from '@/core/game/ruleset';
import { mainLine, positionsAlong } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';
import { database } from './database';
import { recordOf } from './games';
import type { OwnerRef } from './owner';
import { signed } from './prepared-game';
import { games, positions } from './schema';

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
  const where = and(
    eq(games.ownerId, owner.id),
    eq(games.kind, kind),
    eq(positions.key, signed(ruleset.key(position))),
    ne(games.id, exceptGame),
  );
  const rows = await database()
    .select({
      game: games,
      ply: sql<number>`min(${positions.ply})::int`,
      total: sql<number>`(count(*) over ())::int`,
    })
    .from(positions)
    .innerJoin(games, eq(games.id, positions.gameId))
    .where(where)
    .groupBy(games.id)
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
