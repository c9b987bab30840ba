import { sql, type SQL } from 'drizzle-orm';
import type { Side } from '@/core/game/ruleset';
import { games } from './schema';
import type { Owner } from './owner';

/** Which side of a game is the owner's: as they said, else by the name; null where neither tells. */
export function ownSideOf(
  owner: Owner,
  names: readonly (string | null)[],
  said: Side | null,
): Side | null {
  const index = names.indexOf(owner.playerName);
  return said ?? (index < 0 ? null : (index as Side));
}

/** The same of rows of games. */
export const ownSideSql = ({ playerName }: Owner): SQL<Side | null> =>
  sql`coalesce(${games.ownSide}, case ${playerName} when ${games.firstPlayer} then 0 when ${games.secondPlayer} then 1 end)`;
