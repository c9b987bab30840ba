import type { Side } from '@/core/game/ruleset';
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
