import pg from 'pg';

/**
 * Makes an empty database for one file of tests and has this process use it, so that workers of other files take none of its jobs.
 * To be called before anything else asks for the database.
 */
export async function useOwnDatabase(name: string): Promise<void> {
  const given = process.env.BEKTRA_DATABASE_URL!;
  const client = new pg.Client({ connectionString: given });
  await client.connect();
  await client.query(`drop database if exists ${name} with (force)`);
  await client.query(`create database ${name}`);
  await client.end();
  const url = new URL(given);
  url.pathname = `/${name}`;
  process.env.BEKTRA_DATABASE_URL = url.href;
}
