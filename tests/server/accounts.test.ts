import { buffer } from 'node:stream/consumers';
import { sql } from 'drizzle-orm';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { isRead } from '@/core/notation/reading';
import { readGames } from '@/core/notation/formats';
import {
  changePassword,
  closeAccount,
  findAccount,
  makeAccount,
  openDemo,
  removeClosed,
  resetPassword,
  signIn,
  signOut,
  signUp,
} from '@/server/accounts';
import { admit, linksOf } from '@/server/access';
import { archiveOf } from '@/server/archive';
import { forgetAttempts, mayTry } from '@/server/attempts';
import { startBatch } from '@/server/batches';
import { changeGames } from '@/server/change-games';
import { makeCollection } from '@/server/collections';
import { closeDatabase, database, migrateDatabase } from '@/server/database';
import { createGame, saveSteps } from '@/server/games';
import { give, grantsBy, grantsTo, withdraw } from '@/server/grants';
import { queueImport } from '@/server/imports';
import { demoOwner, type Owner } from '@/server/owner';
import { accountOf } from '@/server/sessions';
import { settings } from '@/server/settings';
import { cookieOf, cookiesAsSent, newAccount } from '../support/accounts';
import { prepareLines } from '@/server/preparation-sheets';
import { useOwnDatabase } from '../support/database';
import { mainLineOf } from '../support/lines';
import { unzipped } from '../support/zip';

const PASSWORD = 'a long enough password';
const sent = (cookie: string): Headers => new Headers({ cookie });

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('accounts', () => {
  beforeAll(async () => {
    await useOwnDatabase('accounts_test');
    await migrateDatabase();
  });
  afterAll(closeDatabase);
  afterEach(async () => {
    Object.assign(settings(), { signUp: true, demo: true });
    await database().execute(sql`delete from attempts`);
  });

  it('have names that are told apart by more than case and width', async () => {
    const aino = await newAccount('Aino Lehtisaari');
    for (const name of ['aino lehtisaari', 'AINO LEHTISAARI', 'ａｉｎｏ lehtisaari'])
      expect(await makeAccount(name, PASSWORD)).toBeNull();
    expect(await findAccount('aino LEHTISAARI')).toEqual(aino);
    expect(await findAccount('aino')).toBeNull();
    expect(await findAccount('aino%')).toBeNull();
    expect((await newAccount('青木 遥')).name).toBe('青木 遥');
    expect(await findAccount('青木 遥')).not.toBeNull();
  });

  it('are open to who has signed in, until they sign out', async () => {
    const owner = await newAccount('Jonas');
    const [one, two] = [await cookieOf('jonas'), await cookieOf('JONAS')];
    expect(await accountOf(sent(one))).toEqual(owner);
    expect(await accountOf(sent(''))).toBeNull();
    const [name, value] = one.split('=');
    for (const forged of [`${name}=${value!.split('.')[0]}`, one.slice(0, -8), `${name}=x.y`])
      expect(await accountOf(sent(forged))).toBeNull();
    // a right token under another's signature, and a signature that is right but for its end
    const [token] = value!.split('.');
    const other = two.split('=')[1]!.split('.')[1]!;
    expect(await accountOf(sent(`${name}=${token}.${other}`))).toBeNull();
    expect((await signOut(sent(one))).join()).toContain('Max-Age=0');
    expect(await accountOf(sent(one))).toBeNull();
    expect(await accountOf(sent(two))).toEqual(owner);
    await database().execute(
      sql`update sessions set expires_at = now() where owner_id = ${owner.id}`,
    );
    expect(await accountOf(sent(two))).toBeNull();
  });

  it('send cookies that scripts and other sites do not get', async () => {
    await newAccount('Cookie');
    const cookies = await signIn('Cookie', PASSWORD);
    expect(cookies).toHaveLength(1);
    expect(cookies[0]).toMatch(/; HttpOnly/);
    expect(cookies[0]).toMatch(/; SameSite=Lax/i);
  });

  it('take ten wrong passwords in five minutes and then none, right or wrong; others are not held up', async () => {
    await newAccount('Target');
    await newAccount('Bystander');
    for (let tried = 0; tried < 10; tried++)
      expect(await signIn(tried % 2 ? 'target' : 'TARGET', 'wrong')).toBe('wrong');
    expect(await signIn('Target', PASSWORD)).toBe('tooMany');
    expect(await signIn('Bystander', PASSWORD)).toHaveLength(1);
    expect(await signIn('Nobody', PASSWORD)).toBe('wrong');
    await database().execute(sql`update attempts set since = since - interval '301 seconds'`);
    expect(await signIn('Target', PASSWORD)).toHaveLength(1);
  });

  it('are not made where the operator wants none', async () => {
    const inside = await openDemo();
    if (typeof inside === 'string') throw new Error(inside);
    expect(await signUp('Welcome', PASSWORD)).toHaveLength(1);
    expect(await signUp('Welcome', PASSWORD)).toBe('taken');
    Object.assign(settings(), { signUp: false, demo: false });
    expect(await signUp('Late', PASSWORD)).toBe('closed');
    expect(await findAccount('Late')).toBeNull();
    expect(await openDemo()).toBe('closed');
    // those who are inside already are outside then
    expect(await accountOf(sent(cookiesAsSent(inside)))).toBeNull();
  });

  it('get another password from who knows the present one, and every session of before ends', async () => {
    const owner = await newAccount('Changer');
    const before = await cookieOf('Changer');
    expect(await changePassword(owner, 'wrong', 'another long password')).toBe('wrong');
    expect(await accountOf(sent(before))).toEqual(owner);
    const cookies = await changePassword(owner, PASSWORD, 'another long password');
    if (typeof cookies === 'string') throw new Error(cookies);
    expect(await accountOf(sent(cookiesAsSent(cookies)))).toEqual(owner);
    expect(await accountOf(sent(before))).toBeNull();
    expect(await signIn('Changer', PASSWORD)).toBe('wrong');
    await resetPassword(owner, 'given by the operator');
    expect(await accountOf(sent(cookiesAsSent(cookies)))).toBeNull();
    expect(await signIn('Changer', 'given by the operator')).toHaveLength(1);
  });

  it('of the demo stay as they are', async () => {
    const demo = await demoOwner();
    const cookies = await openDemo();
    if (typeof cookies === 'string') throw new Error(cookies);
    expect(await accountOf(sent(cookiesAsSent(cookies)))).toEqual(demo);
    expect(await signIn('Demo', '')).toBe('wrong');
    expect(await changePassword(demo, '', 'another long password')).toBe('demo');
    expect(await closeAccount(demo, '')).toBe('demo');
    expect(await demoOwner()).toEqual(demo);
  });

  it('end with all that is in them, and with nothing of anybody else', async () => {
    const owner = await newAccount('Leaver');
    const friend = await newAccount('Friend');
    const { id } = await createGame(owner, mainLineOf('chess', ['e2e4', 'e7e5']));
    const kept = await createGame(friend, mainLineOf('chess', ['e2e4', 'e7e5']));
    const step = { type: 'annotate', node: 1, field: 'comment', value: 'mine' } as const;
    await saveSteps(friend, kept.id, 1, [step], { by: owner, right: 'edit' });
    await startBatch(owner, { onlyNew: false }, { average: { nodes: 1000 } });
    await queueImport(owner, 'a.pgn', [Buffer.from('1. e4 *')]);
    const collection = (await makeCollection(owner, 'Best'))!;
    await changeGames(owner, { ids: [id] }, { do: 'put', collection: collection.id });
    for (const [giver, to] of [
      [owner, 'Friend'],
      [friend, 'Leaver'],
    ] as const)
      await give(giver, { scope: { of: 'all' }, to, right: 'read', until: null });
    await cookieOf('Leaver');
    const rowsOf = async (who: Owner): Promise<number> => {
      const { rows: columns } = await database().execute<{ table: string; column: string }>(sql`
        select table_name as table, column_name as column from information_schema.columns
        where table_schema = 'public' and data_type = 'uuid' and column_name like '%\\_id'`);
      let rows = 0;
      for (const { table, column } of columns)
        rows += await database().$count(
          sql`${sql.identifier(table)} where ${sql.identifier(column)} = ${who.id}` as never,
        );
      return rows;
    };
    expect(await rowsOf(owner)).toBeGreaterThan(8);
    const others = await rowsOf(friend);
    expect(await closeAccount(owner, 'wrong')).toBe('wrong');
    const before = await cookieOf('Leaver');
    expect(await closeAccount(owner, PASSWORD)).toBe('done');
    // at once nobody is let in, and the name is free
    expect(await accountOf(sent(before))).toBeNull();
    expect(await signIn('Leaver', PASSWORD)).toBe('wrong');
    expect(await findAccount('Leaver')).toBeNull();
    expect(await admit({ account: friend, links: [] }, id)).toBeNull();
    await removeClosed();
    expect(await rowsOf(owner)).toBe(0);
    expect(await findAccount('Leaver')).toBeNull();
    // the two grants are gone, and nothing else
    expect(await rowsOf(friend)).toBe(others - 2);
  });

  it('are taken out as one file, with words and findings', async () => {
    const owner = await newAccount('Taker');
    const record = mainLineOf('chess', ['e2e4', 'e7e5']);
    const { id } = await createGame(owner, record);
    const step = { type: 'annotate', node: 1, field: 'comment', value: 'a lesson' } as const;
    await saveSteps(owner, id, 1, [step]);
    await prepareLines({ owner, kind: 'chess', side: 0 }, mainLineOf('chess', ['e2e4']).tree);
    for (let more = 0; more < 60; more++) await createGame(owner, record, true);
    await createGame(owner, mainLineOf('shogi', ['7g7f', '3c3d']));
    await createGame(await newAccount('Stranger'), mainLineOf('chess', ['d2d4']));
    await database()
      .execute(sql`insert into asks (owner_id, game_id, plan, settings, state, total, findings)
      values (${owner.id}, ${id}, 'sweep', '{}', 'done', 1, '{"line":["e2e4"]}')`);
    const files = unzipped(await buffer(archiveOf(owner)));
    expect([...files.keys()]).toEqual([
      'chess.pgn',
      'preparation-chess.pgn',
      'shogi.kifu',
      'preparation-shogi.kifu',
      'findings.jsonl',
    ]);
    const [chess, prepared, shogi, , findings] = [...files.values()] as [
      ...[string, string, string, string, string],
    ];
    expect(prepared).toContain('e4');
    expect(prepared).not.toContain('d4');
    const games = [...readGames(chess, 'pgn')].filter(isRead);
    expect(games).toHaveLength(61);
    expect(chess).toContain('a lesson');
    expect(chess).not.toContain('d4');
    expect([...readGames(shogi, 'kif')].filter(isRead)).toHaveLength(1);
    expect(
      findings
        .trim()
        .split('\n')
        .map((line) => JSON.parse(line) as unknown),
    ).toMatchObject([{ findings: { line: ['e2e4'] }, game: { id, kind: 'chess' } }]);
  });
});

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('attempts', () => {
  beforeAll(async () => {
    await useOwnDatabase('attempts_test');
    await migrateDatabase();
  });
  afterAll(closeDatabase);

  it('are counted one by one, however many come at once', async () => {
    const limit = { most: 7, seconds: 60 };
    const all = await Promise.all(Array.from({ length: 40 }, () => mayTry('once', limit)));
    expect(all.filter(Boolean)).toHaveLength(7);
    expect(await mayTry('other', limit)).toBe(true);
  });

  it('are let go of an hour later', async () => {
    await database().execute(sql`update attempts set since = now() - interval '59 minutes'`);
    await forgetAttempts();
    expect(await database().$count(sql`attempts` as never)).toBe(2);
    await database().execute(sql`update attempts set since = now() - interval '61 minutes'`);
    await forgetAttempts();
    expect(await database().$count(sql`attempts` as never)).toBe(0);
  });
});

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('grants', () => {
  let owner: Owner;
  let coach: Owner;
  let game = 0;
  const one = () => ({ of: 'game', id: game }) as const;
  const rightOf = async (account: Owner | null, links: string[] = []) =>
    (await admit({ account, links }, game))?.right ?? null;
  beforeAll(async () => {
    await useOwnDatabase('grants_test');
    await migrateDatabase();
    owner = await newAccount('Student');
    coach = await newAccount('Coach');
    game = (await createGame(owner, mainLineOf('chess', ['e2e4', 'e7e5']))).id;
  });
  afterAll(closeDatabase);
  afterEach(() => database().execute(sql`delete from grants`));

  it('say the most of what several say', async () => {
    expect(await rightOf(owner)).toBe('own');
    expect(await rightOf(coach)).toBeNull();
    await give(owner, { scope: { of: 'all' }, to: 'coach', right: 'read', until: null });
    expect(await rightOf(coach)).toBe('read');
    const collection = (await makeCollection(owner, 'For the coach'))!;
    const scope = { of: 'collection', id: collection.id } as const;
    await give(owner, { scope, to: 'Coach', right: 'edit', until: null });
    expect(await rightOf(coach)).toBe('read');
    await changeGames(owner, { ids: [game] }, { do: 'put', collection: collection.id });
    expect(await rightOf(coach)).toBe('edit');
    await give(owner, { scope: one(), to: 'Coach', right: 'comment', until: null });
    expect(await rightOf(coach)).toBe('edit');
    await changeGames(owner, { ids: [game] }, { do: 'takeOut', collection: collection.id });
    expect(await rightOf(coach)).toBe('comment');
  });

  it('to the same person of the same thing give way to the last', async () => {
    for (const right of ['edit', 'read'] as const)
      await give(owner, { scope: one(), to: 'Coach', right, until: null });
    expect(await grantsBy(owner)).toMatchObject([{ right: 'read', grantee: 'Coach' }]);
    await Promise.all(
      Array.from({ length: 8 }, () =>
        give(owner, { scope: one(), to: 'Coach', right: 'comment', until: null }),
      ),
    );
    expect(await grantsBy(owner, game)).toHaveLength(1);
    expect(await rightOf(coach)).toBe('comment');
  });

  it('last until the end of their last day', async () => {
    const day = (ahead: number): string =>
      new Date(Date.now() + ahead * 24 * 3600 * 1000).toISOString().slice(0, 10);
    await give(owner, { scope: one(), to: 'Coach', right: 'read', until: day(0) });
    expect(await rightOf(coach)).toBe('read');
    expect((await grantsTo({ account: coach, links: [] }))[0]).toMatchObject({ until: day(0) });
    await give(owner, { scope: one(), to: 'Coach', right: 'read', until: day(-1) });
    expect(await rightOf(coach)).toBeNull();
    expect(await grantsTo({ account: coach, links: [] })).toEqual([]);
    // who gave it still sees it
    expect(await grantsBy(owner)).toHaveLength(1);
  });

  it('by link let whoever has it look, until it is withdrawn', async () => {
    const made = await give(owner, { scope: one(), to: null, right: 'read', until: null });
    if (typeof made === 'string') throw new Error(made);
    const link = made.link!;
    expect(link).toMatch(/^[\w-]{32}$/);
    expect(linksOf(new Headers({ cookie: `a=b; bektra.links=${link}.short` }))).toEqual([link]);
    expect(await rightOf(null, [link])).toBe('read');
    expect(await rightOf(coach, [link])).toBe('read');
    expect(await rightOf(null, [`${link.slice(1)}A`])).toBeNull();
    // the link itself is told to nobody but the owner
    expect(await grantsTo({ account: null, links: [link] })).toMatchObject([{ link: null }]);
    expect(await withdraw(coach, made.id)).toBe(false);
    expect(await withdraw(owner, made.id)).toBe(true);
    expect(await rightOf(null, [link])).toBeNull();
  });

  it('are given of what is one’s own, to somebody there is', async () => {
    const gift = { scope: one(), right: 'read', until: null } as const;
    expect(await give(coach, { ...gift, to: 'Student' })).toBe('missing');
    expect(await give(owner, { ...gift, to: 'Nobody' })).toBe('nobody');
    expect(await give(owner, { ...gift, to: 'student' })).toBe('self');
    const collection = (await makeCollection(coach, 'Mine'))!;
    const theirs = { of: 'collection', id: collection.id } as const;
    expect(await give(owner, { ...gift, scope: theirs, to: 'Coach' })).toBe('missing');
    const put = { do: 'put', collection: collection.id } as const;
    expect(await changeGames(coach, { ids: [game] }, put)).toBe(0);
    expect(await changeGames(owner, { ids: [game] }, put)).toBe('missing');
  });
});
