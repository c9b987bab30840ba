import type { GameKind } from '@/core/game/ruleset';

/** Where a game is looked at, at a node of it. */
export const gameHref = (id: number, node: number): string =>
  `/games/${id}${node === 0 ? '' : `?node=${node}`}`;

/** Where a position is looked at without being stored. */
export const deskHref = (kind: GameKind, position: string): string =>
  `/desk?${new URLSearchParams({ kind, position })}`;
