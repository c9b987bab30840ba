import { and, desc, sql } from 'drizzle-orm';
import type { GameKind } from '@/core/game/ruleset';
import { nodesInOrder, pathTo, positionsAlong } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';
import { selectGames } from './game-rows';
import { recordOf } from './games';
import { presentGames } from './chosen-games';
import type { OwnerRef } from './owner';
import { gameRecords, games } from './schema';

/** What a player wants to remember of a position of one of their games. */
export interface Lesson {
  gameId: number;
  node: number;
  kind: GameKind;
  words: string;
  /** FEN or SFEN of the position, and the move that led there in UCI or USI. */
  position: string;
  move: string | null;
  players: [string | null, string | null];
  date: string | null;
  event: string | null;
}

const MOST_GAMES = 500;

/** The owner's lessons, those of the latest games first, in the order in which a game has them. */
export async function listLessons(owner: OwnerRef): Promise<Lesson[]> {
  const rows = await selectGames()
    .where(and(presentGames(owner), games.annotated, sql`${gameRecords.nodes} @? '$[*].lesson'`))
    .orderBy(sql`${games.date} desc nulls last`, desc(games.id))
    .limit(MOST_GAMES);
  return rows.flatMap((row) => {
    const { tree } = recordOf(row);
    const ruleset = rulesetOf(tree.kind);
    return [...nodesInOrder(tree)].flatMap((node) => {
      if (node.lesson === undefined) return [];
      const position = positionsAlong(ruleset, tree.start, pathTo(tree, node.id)).at(-1)!;
      return [
        {
          gameId: row.id,
          node: node.id,
          kind: row.kind,
          words: node.lesson,
          position: ruleset.write(position),
          move: node.parent === null ? null : ruleset.code(node.move),
          players: [row.firstPlayer, row.secondPlayer] as [string | null, string | null],
          date: row.date,
          event: row.event,
        },
      ];
    });
  });
}
