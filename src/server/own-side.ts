import { sql, type SQL } from 'drizzle-orm';
import type { Side } from '@/core/game/ruleset';
import { games } from './schema';
import type { Owner } from './owner';

/** What of a game tells which side is the owner's. */
export type SideFacts = Pick<
  typeof games.$inferSelect,
  'ownSide' | 'firstPlayerId' | 'secondPlayerId'
>;

/** Which side of a game is the owner's: as they said, else by who they are; null where neither tells. */
export function ownSideOf(
  { playerId }: Pick<Owner, 'playerId'>,
  { ownSide, firstPlayerId, secondPlayerId }: SideFacts,
): Side | null {
  if (ownSide !== null || playerId === null) return ownSide;
  if (firstPlayerId === playerId) return 0;
  return secondPlayerId === playerId ? 1 : null;
}

/** The same of rows of games. */
export const ownSideSql = ({ playerId }: Pick<Owner, 'playerId'>): SQL<Side | null> =>
  sql`coalesce(${games.ownSide}, case ${playerId}::bigint when ${games.firstPlayerId} then 0 when ${games.secondPlayerId} then 1 end)`;
