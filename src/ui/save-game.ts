import { createGame } from '@/contract/games';
import type { GameRecord } from '@/core/game/record';
import { toJson } from '@/core/game/serial';
import { call } from './call';

/** Keeps a new game on the server; its id, or null where the server did not take it. */
export const saveGame = (record: GameRecord): Promise<number | null> =>
  call(createGame, { body: toJson(record) }).then(
    ({ id }) => id,
    () => null,
  );
