import { createGame } from '@/contract/games';
import { FIRST_VERSION } from '@/core/game/record';
import { toJson } from '@/core/game/serial';
import { call, Refused, wordsOf } from '../call';
import type { DeskStore } from './desk-store';

/** Games that are being stored for the first time. */
const underWay = new WeakMap<DeskStore, Promise<number | null>>();

/**
 * The id of the game on a Desk, which is stored first where it is not yet: in a Desk of a position, nothing is until there is something
 * to keep. Null where the server did not take it.
 * @param leaving the page goes away meanwhile
 */
export function keepGame(store: DeskStore, leaving = false): Promise<number | null> {
  const { gameId } = store.getState();
  if (gameId !== null) return Promise.resolve(gameId);
  const known = underWay.get(store);
  if (known) return known;
  const storing = storeGame(store, leaving).finally(() => underWay.delete(store));
  underWay.set(store, storing);
  return storing;
}

async function storeGame(store: DeskStore, leaving: boolean): Promise<number | null> {
  const { view, unsaved } = store.getState();
  let id: number;
  try {
    // a copy: the same game may be there already, with nodes and words of its own
    const asked = { query: { copy: '1' }, body: toJson(view.record), keepalive: leaving } as const;
    ({ id } = await call(createGame, asked));
  } catch (error) {
    if (error instanceof Refused && error.isFinal) store.getState().refuse(wordsOf(error));
    return null;
  }
  store.getState().kept(id, unsaved.length, FIRST_VERSION);
  return id;
}
