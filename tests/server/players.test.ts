import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { withTag } from '@/core/game/record';
import { scoreOf } from '@/core/game/score-share';
import { closeDatabase, database, migrateDatabase } from '@/server/database';
import type { GameFilter } from '@/contract/game-filter';
import { listGames, stripOf } from '@/server/library';
import { createGame, saveSteps, setOwnSide } from '@/server/games';
import { insertGames } from '@/server/insert-games';
import { findOwner, type Owner } from '@/server/owner';
import {
  changePlayer,
  fillPlayers,
  findPlayer,
  gamesOfPlayer,
  listPlayers,
  lookalikes,
} from '@/server/players';
import { prepareGame } from '@/server/prepared-game';
import { withPlayers } from '@/server/player-names';
import { newAccount } from '../support/accounts';
import { useOwnDatabase } from '../support/database';
import { mainLineOf } from '../support/lines';

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('players', () => {
  let owner: Owner;
  let count = 0;
  beforeAll(async () => {
    await useOwnDatabase('players_test');
    await migrateDatabase();
  });
  beforeEach(async () => {
    owner = await newAccount(`Owner ${++count}`);
  });
  afterAll(closeDatabase);

  const game = (white: string | null, black: string | null, tags: Record<string, string> = {}) => {
    let record = mainLineOf('chess', ['e2e4', 'e7e5']);
    for (const [name, value] of Object.entries({ White: white, Black: black, ...tags }))
      if (value !== null) record = { ...record, tags: withTag(record.tags, name, value) };
    return { ...record, result: (tags.Result ?? '*') as typeof record.result };
  };
  const play = async (...parts: Parameters<typeof game>): Promise<number> =>
    (await createGame(owner, game(...parts), true)).id;
  const named = async (name: string) =>
    (await listPlayers(owner)).find((player) => player.names.includes(name))!;
  const sides = async (): Promise<(number | null)[]> => {
    const now = (await findOwner(owner.id))!;
    return (await listGames(now, {}, { count: 99 })).map(({ ownSide }) => ownSide);
  };

  it('are met in games, once for each name however it is spelt', async () => {
    await play('Mirela Tanase', 'Jonas Brandt', { Date: '2026.03.14' });
    await play('jonas  brandt', 'Mirela Tănase', { Date: '2025.01.01' });
    await play(null, 'Aino');
    expect(await listPlayers(owner)).toMatchObject([
      { name: 'Jonas Brandt', games: 2, latest: '2026-03-14', isSelf: false },
      { name: 'Mirela Tanase', games: 2, latest: '2026-03-14', isSelf: false },
      { name: 'Aino', games: 1, latest: null },
    ]);
    const stranger = await newAccount(`Stranger ${count}`);
    expect(await listPlayers(stranger)).toEqual([]);
    expect(await findPlayer(stranger, (await named('Aino')).id)).toBeNull();
  });

  it('are met once by many who bring them in at once', async () => {
    await Promise.all(
      Array.from({ length: 6 }, (_, index) =>
        database().transaction((tx) =>
          insertGames(
            tx,
            owner,
            ['A', 'B', 'C'].map((name) => prepareGame(game(name, `${name}${index}`))),
            'x',
          ),
        ),
      ),
    );
    const all = await listPlayers(owner);
    expect(all).toHaveLength(3 + 18);
    expect(all.slice(0, 3)).toMatchObject([
      { name: 'A', games: 6 },
      { name: 'B', games: 6 },
      { name: 'C', games: 6 },
    ]);
  });

  it('follow the header of a game', async () => {
    const id = await play('Typo', 'Jonas');
    await saveSteps(owner, id, 1, [{ type: 'tag', name: 'White', value: 'Mirela' }]);
    expect((await named('Mirela')).games).toBe(1);
    expect((await named('Typo')).games).toBe(0);
  });

  it('tell which side was the owner, once that has been said', async () => {
    await play('Mirela', 'Jonas', { Date: '2026.01.03' });
    await play('Jonas', 'Mirela', { Date: '2026.01.02' });
    const third = await play('Aino', 'Jonas', { Date: '2026.01.01' });
    expect(await sides()).toEqual([null, null, null]);
    await changePlayer(owner, (await named('Mirela')).id, { isSelf: true, join: [] });
    expect(await sides()).toEqual([0, 1, null]);
    // one at a time
    await changePlayer(owner, (await named('Aino')).id, { isSelf: true, join: [] });
    expect(await sides()).toEqual([null, null, 0]);
    await changePlayer(owner, (await named('Mirela')).id, { isSelf: false, join: [] });
    expect(await sides()).toEqual([null, null, 0]);
    await changePlayer(owner, (await named('Aino')).id, { isSelf: false, join: [] });
    expect(await sides()).toEqual([null, null, null]);
    // said of one game, it is known of all
    await setOwnSide(owner, third, 1);
    expect(await sides()).toEqual([1, 0, 1]);
    // and what is known is not overturned by one game
    await setOwnSide(owner, third, 0);
    expect(await sides()).toEqual([1, 0, 0]);
    expect((await named('Jonas')).isSelf).toBe(true);
  });

  it('are joined, and parted again', async () => {
    await play('Tanase, Mirela', 'Jonas');
    await play('Jonas', 'Mirela Tanase');
    await play('TANASE, MIRELA', 'Mirela Tanase');
    const all = await listPlayers(owner);
    const groups = lookalikes(all);
    expect(groups.map((group) => group.map(({ name }) => name).sort())).toEqual([
      ['Mirela Tanase', 'Tanase, Mirela'],
    ]);
    const [one, other] = [await named('Mirela Tanase'), await named('Tanase, Mirela')];
    await changePlayer(owner, other.id, { isSelf: true, join: [] });
    const joined = await changePlayer(owner, one.id, { join: [other.id] });
    expect(joined).toMatchObject({
      name: 'Mirela Tanase',
      names: ['Mirela Tanase', 'Tanase, Mirela'],
      isSelf: true,
      games: 3,
    });
    expect(await findPlayer(owner, other.id)).toBeNull();
    expect(lookalikes(await listPlayers(owner))).toEqual([]);
    // a game that comes later finds them too
    await play('tanase, mirela', 'Aino');
    expect((await findPlayer(owner, one.id))!.games).toBe(4);

    await changePlayer(owner, one.id, { part: 'Tanase, Mirela', join: [] });
    const [kept, parted] = [await named('Mirela Tanase'), await named('Tanase, Mirela')];
    expect(kept).toMatchObject({ id: one.id, games: 2, names: ['Mirela Tanase'], isSelf: true });
    expect(parted).toMatchObject({ games: 3, names: ['Tanase, Mirela'], isSelf: false });
  });

  it('are joined while games of theirs come in, and none is left behind', async () => {
    await play('Mirela', 'Jonas');
    await play('M. Tanase', 'Jonas');
    const [one, other] = [await named('Mirela'), await named('M. Tanase')];
    let isStored = (): void => {};
    const stored = new Promise<void>((resolve) => (isStored = resolve));
    let goOn = (): void => {};
    const held = new Promise<void>((resolve) => (goOn = resolve));
    const coming = database().transaction(async (tx) => {
      await withPlayers(tx, owner, [{ firstPlayer: 'M. Tanase' }]);
      isStored();
      await held;
      await insertGames(tx, owner, [prepareGame(game('M. Tanase', 'Aino'))], 'x');
    });
    await stored;
    const joining = changePlayer(owner, one.id, { join: [other.id] });
    // what is joined meanwhile would go past the game
    const first = await Promise.race([
      joining,
      new Promise((done) => setTimeout(done, 300, 'waits')),
    ]);
    expect(first).toBe('waits');
    goOn();
    await coming;
    expect(await joining).toMatchObject({ games: 3 });
    await play('M. Tanase', 'Aino');
    expect((await findPlayer(owner, one.id))!.games).toBe(4);
  });

  it('are not joined with nobody, themselves or somebody else’s, nor parted from their only name', async () => {
    await play('Mirela', 'Jonas');
    const stranger = await newAccount(`Stranger ${count}`);
    const theirs = (await createGame(stranger, game('Mirela', 'Jonas'))).id;
    const [strange] = await listPlayers(stranger);
    const { id } = await named('Mirela');
    for (const join of [[id], [999_999], [strange!.id], [(await named('Jonas')).id, 999_999]])
      expect(await changePlayer(owner, id, { join })).toBe('missing');
    expect(await changePlayer(owner, strange!.id, { name: 'x', join: [] })).toBe('missing');
    for (const part of ['Mirela', 'Jonas'])
      expect(await changePlayer(owner, id, { part, join: [] })).toBe('missing');
    expect(await listPlayers(owner)).toHaveLength(2);
    expect((await gamesOfPlayer(stranger, strange!.id)).map((one) => one.id)).toEqual([theirs]);
    expect(await gamesOfPlayer(owner, strange!.id)).toEqual([]);
  });

  it('are seen from their side', async () => {
    await play('Mirela', 'Jonas', {
      Result: '1-0',
      WhiteElo: '1900',
      TimeControl: '180+2',
      Date: '2026.02.01',
    });
    await play('Jonas', 'Mirela', { Result: '1/2-1/2', BlackElo: '1910', Date: '2026.01.01' });
    await play('Jonas', 'Mirela', { Result: '*' });
    const played = await gamesOfPlayer(owner, (await named('Mirela')).id);
    expect(played).toMatchObject([
      { side: 0, rating: 1900, timeClass: 'blitz', outcome: 'won', opponent: 'Jonas' },
      { side: 1, rating: 1910, timeClass: null, outcome: 'drawn' },
      { side: 1, rating: null, outcome: null },
    ]);
    expect(scoreOf(played)).toEqual({ won: 1, drawn: 1, lost: 0 });
    const theirs = await gamesOfPlayer(owner, (await named('Jonas')).id);
    expect(scoreOf(theirs)).toEqual({ won: 0, drawn: 1, lost: 1 });
    const [mirela, jonas] = [await named('Mirela'), await named('Jonas')];
    await play('Mirela', 'Aino');
    const count = async (filter: GameFilter) => (await stripOf(owner, filter)).games;
    expect(await count({ player: mirela.id, against: jonas.id })).toBe(3);
    expect(await count({ player: mirela.id })).toBe(4);
    expect(await count({ player: mirela.id, playing: 'first' })).toBe(2);
    expect(await count({ player: mirela.id, playing: 'second' })).toBe(2);
    expect(await count({ player: jonas.id, against: mirela.id, playing: 'second' })).toBe(1);
    expect(await count({ playing: 'second' })).toBe(4);
  });

  it('are given to games that were stored before there were any', async () => {
    const id = await play('Mirela', 'Jonas', { TimeControl: '3600' });
    const empty = await play('   ', 'Jonas');
    await database().execute(
      sql`update games set first_player_id = null, second_player_id = null, time_class = null where owner_id = ${owner.id}`,
    );
    await database().execute(sql`delete from players where owner_id = ${owner.id}`);
    await fillPlayers();
    expect(await gamesOfPlayer(owner, (await named('Mirela')).id)).toMatchObject([
      { id, timeClass: 'long' },
    ]);
    expect((await gamesOfPlayer(owner, (await named('Jonas')).id)).map((one) => one.id)).toEqual([
      empty,
      id,
    ]);
  });
});
