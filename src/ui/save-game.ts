import type { GameRecord } from '@/core/game/record';
import { toJson } from '@/core/game/serial';
import { post } from './post';

/** Keeps a new game on the server; its id, or null where the server did not take it. */
export async function saveGame(record: GameRecord): Promise<number | null> {
  const answer = await post('/api/games', toJson(record)).catch(() => null);
  return answer?.ok ? ((await answer.json()) as { id: number }).id : null;
}
