import { toJson, type RecordJson } from '@/core/game/serial';
import type { GameTree } from '@/core/game/tree';

/** Lines as they are sent, without anything of a game. */
export const linesJson = (tree: GameTree): RecordJson =>
  toJson({ tree, tags: [], result: '*', end: null });
