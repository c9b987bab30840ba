import { sql } from 'drizzle-orm';
import { database } from '@/server/database';

/** Has the database refuse to store games of an event, with an SQLSTATE, until what is returned is called. */
export async function refuseGames(event: string, state: string): Promise<() => Promise<void>> {
  const name = sql.raw(`refuse_${state.toLowerCase()}`);
  const [wanted, code] = [sql.raw(`'${event}'`), sql.raw(`'${state}'`)];
  await database().execute(sql`
    create or replace function ${name}() returns trigger language plpgsql as $$
    begin
      if new.event = ${wanted} then
        raise exception 'secret words of %', new.event using errcode = ${code};
      end if;
      return new;
    end $$`);
  await database().execute(
    sql`create trigger ${name} before insert on games for each row execute function ${name}()`,
  );
  return async () => void (await database().execute(sql`drop trigger ${name} on games`));
}
