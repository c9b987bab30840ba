import { queryOptions } from '@tanstack/react-query';
import { askEnding } from '@/contract/endings';
import { call } from '../call';

/** How soon it is asked again for tables that are being made. */
const COMING_MS = 5000;

/** What a chess position is worth, as far as that is certain; it stays so. @param position FEN */
export const endingQuery = (position: string) =>
  queryOptions({
    queryKey: ['ending', position],
    queryFn: () => call(askEnding, { query: { position } }),
    staleTime: ({ state }) => (state.data?.tables === 'coming' ? 0 : Infinity),
    refetchInterval: ({ state }) => (state.data?.tables === 'coming' ? COMING_MS : false),
  });
