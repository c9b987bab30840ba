'use client';

import { useQuery } from '@tanstack/react-query';
import { listDepartures, type Departure } from '@/contract/bases';
import { call } from '../call';
import { usePreferences } from '../preferences';
import { useDesk, useMay } from './desk-store';

const NONE: readonly Departure[] = [];
const FRESH_MS = 60_000;

/** Where the game on the Desk left the reader's bases, as it is saved. */
export function useDepartures(): readonly Departure[] {
  const gameId = useDesk((state) => state.gameId);
  const version = useDesk((state) => state.version);
  const mayAsk = useMay('read');
  const { data } = useQuery({
    queryKey: ['bases', 'departures', gameId, version],
    queryFn: () => call(listDepartures, { id: gameId! }),
    enabled: gameId !== null && mayAsk,
    staleTime: FRESH_MS,
    placeholderData: (before) => before,
  });
  return data ?? NONE;
}

/** The one that the sheet and the course show: of the base that was chosen first. */
export function useDeparture(): Departure | null {
  const departures = useDepartures();
  const asked = usePreferences((state) => state.askedBases);
  const known = asked.flatMap((id) => departures.find(({ base }) => base.id === id) ?? []);
  return known[0] ?? departures[0] ?? null;
}
