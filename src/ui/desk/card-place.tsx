'use client';

import { createContext, useContext, useDeferredValue, type ReactNode } from 'react';
import type { BoardPlace } from './board-place';
import { useDesk } from './desk-store';

const CardPlace = createContext<BoardPlace | null>(null);

/** Lets the cards follow the board a moment later, so that they never hold up a step. */
export function CardPlaceProvider({ children }: { children: ReactNode }) {
  const place = useDesk((state) => state.place());
  const deferred = useDeferredValue(place);
  const isThere = useDesk(({ view }) => view.has(deferred.node));
  return <CardPlace.Provider value={isThere ? deferred : place}>{children}</CardPlace.Provider>;
}

/** What is on the board, for a card. */
export function useCardPlace(): BoardPlace {
  const place = useContext(CardPlace);
  if (!place) throw new Error('outside the cards');
  return place;
}
