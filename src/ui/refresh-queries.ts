import type { QueryClient, QueryKey } from '@tanstack/react-query';

/**
 * Asks anew what is in sight and has changed. What is just being asked for the first time may have been answered before the change: it is let
 * come, since changes may follow each other faster than answers, and is then asked once more.
 */
export async function refreshQueries(client: QueryClient, queryKey: QueryKey): Promise<void> {
  const first = client.getQueryCache().findAll({
    queryKey,
    fetchStatus: 'fetching',
    predicate: ({ state }) => state.data === undefined,
  });
  // waits for those too
  await client.invalidateQueries({ queryKey });
  if (first.length > 0)
    await client.invalidateQueries(
      { queryKey, predicate: (query) => first.includes(query) },
      { cancelRefetch: false },
    );
}
