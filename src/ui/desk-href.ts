import type { GameKind } from '@/core/game/ruleset';

/** Where a position is looked at without being stored. */
export const deskHref = (kind: GameKind, position: string): string =>
  `/desk?${new URLSearchParams({ kind, position })}`;
