import { sql, type SQL } from 'drizzle-orm';
import type { GameFilter } from '@/contract/game-filter';
import type { Side } from '@/core/game/ruleset';
import { games } from './schema';
import type { Owner } from './owner';

/** What of a game tells which side is the owner's. */
export type SideFacts = Pick<
  typeof games.$inferSelect,
  'ownSide' | 'firstPlayerId' | 'secondPlayerId'
>;

/** An owner as whose side games are looked at: their own, or that of another player of theirs. */
export type Reviewing = Owner & {
  /** Of the games of `playerId`, of whom the owner has said nothing but the name. */
  isOther?: true;
};

/** The owner, looking at games as a filter says. */
export const reviewing = (owner: Owner, { player, viewpoint }: GameFilter): Reviewing =>
  viewpoint === undefined || player === undefined || player === owner.playerId
    ? owner
    : { ...owner, playerId: player, isOther: true };

/** Which side of a game is the owner's: as they said, else by who they are; null where neither tells. */
export function ownSideOf(
  { playerId, isOther }: Pick<Reviewing, 'playerId' | 'isOther'>,
  { ownSide, firstPlayerId, secondPlayerId }: SideFacts,
): Side | null {
  const said = isOther ? null : ownSide;
  if (said !== null || playerId === null) return said;
  if (firstPlayerId === playerId) return 0;
  return secondPlayerId === playerId ? 1 : null;
}

/** The same of rows of games. */
export const ownSideSql = ({
  playerId,
  isOther,
}: Pick<Reviewing, 'playerId' | 'isOther'>): SQL<Side | null> =>
  sql`coalesce(${isOther ? sql`null` : games.ownSide}, case ${playerId}::bigint when ${games.firstPlayerId} then 0 when ${games.secondPlayerId} then 1 end)`;
