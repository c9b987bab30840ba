import { and, eq, sql } from 'drizzle-orm';
import type { SweepFindings } from '@/core/review/findings';
import { figuresOf, packFigures } from '@/core/review/game-figures';
import type { Transaction } from './database';
import { games } from './schema';

/** Keeps with a game what a sweep that is complete says of it, unless a later one has said it. */
export async function keepFigures(
  tx: Transaction,
  gameId: number,
  sweep: number,
  { findings }: SweepFindings,
): Promise<void> {
  const { trend, turningPoints, depth, sides } = figuresOf(findings);
  const [first, second] = sides;
  await tx
    .update(games)
    .set({
      trend,
      turningPoints,
      depth,
      firstFigures: packFigures(first),
      secondFigures: packFigures(second),
    })
    .where(
      and(
        eq(games.id, gameId),
        sql`not exists (select from asks later where later.game_id = ${gameId} and later.id > ${sweep}
          and later.plan = 'sweep' and later.state = 'done' and later.findings is not null)`,
      ),
    );
}
