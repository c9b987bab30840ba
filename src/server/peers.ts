import { sql, type SQL } from 'drizzle-orm';
import type { GameKind } from '@/core/game/ruleset';
import { SIDE_FIGURES } from '@/core/review/game-figures';
import { mayAsk } from './bases';
import { database } from './database';
import type { Owner } from './owner';
import { baseGames, bases } from './schema';

/** Players of a base with ratings in a span. */
export interface Peers {
  base: { id: number; name: string };
  /** Of either side of games of which a file states what the positions were worth. */
  accuracies: readonly number[];
  /** Plies to which those were looked at, on average; null where no file says so. */
  depth: number | null;
}

/** As many sides as are taken of each base, those of its first games. */
const MOST_SIDES = 20_000;

/** Who has a rating between two in each base that a reader may ask and that tells how accurately they played. */
export async function peersOf(
  reader: Owner,
  kind: GameKind,
  { from, to }: { from: number; to: number },
): Promise<Peers[]> {
  const place = SIDE_FIGURES.indexOf('accuracy') + 1;
  const side = (figures: SQL, rated: SQL): SQL =>
    sql`select number, depth, ${figures}[${place}::integer] as accuracy from ${baseGames}
      where base_id = ${bases.id} and first_figures is not null
        and ${rated} between ${from}::integer and ${to}::integer`;
  const { rows } = await database().execute<{
    id: string;
    name: string;
    accuracies: number[];
    depth: number | null;
  }>(
    sql`select ${bases.id} as id, ${bases.name} as name, array_agg(accuracy) as accuracies, avg(depth) as depth
      from ${bases}, lateral (
        select * from (
          ${side(sql`first_figures`, sql`first_rating`)} union all ${side(sql`second_figures`, sql`second_rating`)}
        ) as sides where accuracy is not null order by number limit ${MOST_SIDES}
      ) as taken
      where ${mayAsk(reader)} and ${bases.kind} = ${kind}
      group by ${bases.id}, ${bases.name} order by ${bases.name}`,
  );
  return rows.map(({ id, name, accuracies, depth }) => ({
    base: { id: Number(id), name },
    accuracies,
    depth,
  }));
}
