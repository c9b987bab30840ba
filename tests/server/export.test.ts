import { and, eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { GET as exportGames } from '@/app/api/games/export/route';
import { withTag } from '@/core/game/record';
import { readGames } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { closeDatabase, database, migrateDatabase } from '@/server/database';
import { gamesAsCsv, gamesAsText } from '@/server/export-games';
import { createGame } from '@/server/games';
import { listGames } from '@/server/library';
import { findOwner, type Owner } from '@/server/owner';
import { changePlayer, listPlayers } from '@/server/players';
import { games } from '@/server/schema';
import { cookieOf, newAccount } from '../support/accounts';
import { useOwnDatabase } from '../support/database';
import { mainLineOf } from '../support/lines';

const textOf = async (pieces: AsyncIterable<string>): Promise<string> => {
  let text = '';
  for await (const piece of pieces) text += piece;
  return text;
};

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('many games go out', () => {
  let owner: Owner;
  let stranger: Owner;
  beforeAll(async () => {
    await useOwnDatabase('export_test');
    await migrateDatabase();
    owner = await newAccount('Owner');
    for (let round = 1; round <= 60; round++)
      await add(owner, 'chess', ['e2e4', 'e7e5'], `${round}`);
    await add(owner, 'shogi', ['7g7f', '3c3d'], '1');
    await add(owner, 'shogi', ['2g2f'], '2');
    stranger = await newAccount('Stranger');
    await add(stranger, 'chess', ['d2d4'], '1');
    const [self] = await listPlayers(owner);
    await changePlayer(owner, self!.id, { isSelf: true, join: [] });
    owner = (await findOwner(owner.id))!;
  });
  afterAll(closeDatabase);

  const add = async (
    to: Owner,
    kind: 'chess' | 'shogi',
    moves: string[],
    round: string,
  ): Promise<void> => {
    let record = mainLineOf(kind, moves);
    const first = kind === 'chess' ? 'White' : 'Black';
    const tags = { [first]: '=Mirela, "M"', Round: round, Event: 'Open', TimeControl: '600' };
    for (const [name, value] of Object.entries(tags))
      record = { ...record, tags: withTag(record.tags, name, value) };
    await createGame(to, record, true);
  };

  it('in their own format, each once, and none of others', async () => {
    const pgn = await textOf(gamesAsText(owner, {}, 'pgn'));
    const read = [...readGames(pgn, 'pgn')].filter(isRead);
    const rounds = read.map(
      ({ record }) => record.tags.find(({ name }) => name === 'Round')?.value,
    );
    expect(rounds).toEqual(Array.from({ length: 60 }, (_, index) => `${index + 1}`));
    expect(pgn).not.toContain('d4');
    for (const format of ['kif', 'ki2', 'csa'] as const) {
      const text = await textOf(gamesAsText(owner, {}, format));
      expect([...readGames(text, format)].filter(isRead)).toHaveLength(2);
    }
  });

  it('as a filter holds them', async () => {
    expect(await textOf(gamesAsText(owner, { kind: 'shogi' }, 'pgn'))).toBe('');
    expect(await textOf(gamesAsText(owner, { text: 'nobody' }, 'pgn'))).toBe('');
    expect(await textOf(gamesAsText(owner, { text: 'open' }, 'kif'))).not.toBe('');
  });

  it('with what is written into each', async () => {
    const text = await textOf(
      gamesAsText(owner, {}, 'kif', ({ record }) =>
        Promise.resolve({ ...record, tags: withTag(record.tags, 'Event', 'Said anew') }),
      ),
    );
    expect(text.match(/Said anew/g)).toHaveLength(2);
  });

  it('as a table', async () => {
    await database()
      .update(games)
      .set({
        labels: ['to show', 'endings'],
        trend: 'one way',
        turningPoints: 2,
        depth: 11.5,
        firstFigures: [81.5, 3, 20, 2.25, 1, 2, 0, 7, 12.5, 1, 66],
        secondFigures: [75, null, 19, 3, 0, 0, 0, null, null, 0, 50],
      })
      .where(and(eq(games.kind, 'shogi'), eq(games.ownerId, owner.id), eq(games.round, '2')));
    const [head, ...rows] = (await textOf(gamesAsCsv(owner, { kind: 'shogi' }))).split('\r\n');
    expect(head!.startsWith('\ufeffgame,date,')).toBe(true);
    expect(head!.endsWith(',second let-offs,second best chance')).toBe(true);
    const common = (round: number) =>
      `shogi,,,Open,${round},"'=Mirela, ""M""",,,,*,,first,600,blitz,,,,`;
    expect(rows).toEqual([
      `${common(1)},2,,false${','.repeat(25)}`,
      `${common(2)},1,to show; endings,false,11.5,one way,2,81.5,3,20,2.25,1,2,0,7,12.5,1,66,75,,19,3,0,0,0,,,0,50`,
      '',
    ]);
  });

  it('by a route that refuses what it does not know', async () => {
    const cookie = await cookieOf('Owner');
    const ask = (query: string) =>
      exportGames(
        new Request(`http://127.0.0.1:3210/api/games/export${query}`, {
          headers: { host: '127.0.0.1:3210', cookie },
        }),
        { params: Promise.resolve(undefined) },
      );
    for (const query of ['', '?format=doc', '?format='])
      expect((await ask(query)).status, query).toBe(400);
    const table = await ask('?format=csv&kind=shogi');
    expect(table.headers.get('content-type')).toBe('text/csv; charset=utf-8');
    expect((await table.text()).split('\r\n')).toHaveLength(4);
    expect((await ask('?format=csv&findings=1&form=nonsense')).status).toBe(400);

    // those that were chosen, whatever else the filter says
    const all = await listGames(owner, {}, { count: 200 });
    const chosen = all.filter(({ round }) => round === '2' || round === '7').map(({ id }) => id);
    expect(chosen).toHaveLength(3);
    const [foreign] = await listGames(stranger, {}, { count: 1 });
    const taken = await ask(`?format=pgn&ids=${[...chosen, foreign!.id].join(',')}`);
    expect([...readGames(await taken.text(), 'pgn')].filter(isRead)).toHaveLength(2);
    for (const ids of ['', 'a', '1,', '0', '1.5', '-1', Array(1001).fill(1).join(',')])
      expect((await ask(`?format=pgn&ids=${ids}`)).status, ids.slice(0, 9)).toBe(400);

    const legacy = await ask('?format=kif&encoding=sjis');
    expect(legacy.headers.get('content-type')).toBe('text/plain; charset=shift_jis');
    expect(legacy.headers.get('content-disposition')).toContain('bektra.kif"');
    const bytes = new Uint8Array(await legacy.arrayBuffer());
    const text = new TextDecoder('shift_jis', { fatal: true }).decode(bytes);
    expect([...readGames(text, 'kif')].filter(isRead)).toHaveLength(2);
    expect((await ask('?format=pgn&encoding=sjis')).headers.get('content-type')).toContain('utf-8');
  });
});
