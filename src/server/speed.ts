import { desc, eq, sql } from 'drizzle-orm';
import type { GameKind } from '@/core/game/ruleset';
import { database } from './database';
import { evaluations } from './schema';
import { settings } from './settings';

/** Of so many evaluations, the latest. */
const LATEST = 300;

/** How fast this machine has searched positions of a kind, or of any, lately, by what its engines have answered. */
export async function measuredSpeed(
  kind?: GameKind,
): Promise<{ nodesPerSecond: number | null; engines: number }> {
  const { engines } = settings();
  const latest = database()
    .select({ nodes: evaluations.nodes, milliseconds: evaluations.milliseconds })
    .from(evaluations)
    .where(kind && eq(evaluations.kind, kind))
    .orderBy(desc(evaluations.id))
    .limit(LATEST)
    .as('latest');
  const [row] = await database()
    .select({
      each: sql<
        number | null
      >`(1000 * sum(${latest.nodes}) / nullif(sum(${latest.milliseconds}), 0))::float8`,
    })
    .from(latest);
  const each = row?.each ?? null;
  return { nodesPerSecond: each === null ? null : each * engines, engines };
}
