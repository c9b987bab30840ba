import type pg from 'pg';

/** One connection to the database, whose locks last as long as it does. */
export interface Session {
  query<Row extends pg.QueryResultRow>(text: string, values?: unknown[]): Promise<{ rows: Row[] }>;
}

/** A connection that many ask at a time, and that is asked one question after the other. */
export function inTurn(client: Pick<pg.Client, 'query'>): Session {
  let last: Promise<unknown> = Promise.resolve();
  return {
    query: <Row extends pg.QueryResultRow>(text: string, values?: unknown[]) => {
      const next = last.then(() => client.query<Row>(text, values));
      // what one is refused is none of the next one's business
      last = next.catch(() => undefined);
      return next;
    },
  };
}
