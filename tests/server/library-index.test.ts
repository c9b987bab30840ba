import { eq, inArray, sql } from 'drizzle-orm';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { CHOICE_NAMES, CHOICES, RANGES, spanText, type GameFilter } from '@/contract/game-filter';
import { changeGames } from '@/server/change-games';
import { gamesOf } from '@/server/chosen-games';
import { makeCollection } from '@/server/collections';
import { closeDatabase, database, migrateDatabase } from '@/server/database';
import { insertGames } from '@/server/insert-games';
import { listGames, stripOf } from '@/server/library';
import { findOwner, type Owner } from '@/server/owner';
import { changePlayer, listPlayers } from '@/server/players';
import { prepareGame } from '@/server/prepared-game';
import { games, sessions } from '@/server/schema';
import { warmLibraries } from '@/server/warm-libraries';
import { cookieOf, newAccount } from '../support/accounts';
import { useOwnDatabase } from '../support/database';
import { recordFrom } from '../support/games';

const PLAYERS = ['Mirela', 'Aino', 'Jürgen Zoë', 'Ottilie'];

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('the library in memory', () => {
  let owner: Owner;
  let collection = 0;
  let players: number[] = [];
  const store = (texts: readonly string[]) =>
    database().transaction((tx) =>
      insertGames(
        tx,
        owner,
        texts.map((text) => prepareGame(recordFrom(text))),
        'test',
      ),
    );
  const gameText = (index: number): string => {
    const [white, black] = [PLAYERS[index % 4]!, PLAYERS[(index * 7 + 1) % 4]!];
    const tags = [
      `[White "${white}"]`,
      `[Black "${black}"]`,
      `[Round "${index}"]`,
      index % 5 === 0
        ? ''
        : `[Date "${2019 + (index % 4)}.${String(1 + (index % 12)).padStart(2, '0')}.0${1 + (index % 9)}"]`,
      index % 3 === 0 ? '' : `[WhiteElo "${1500 + 13 * index}"]`,
      index % 2 === 0 ? `[Event "Event ${index % 3}"]` : '',
    ];
    const words = index % 6 === 0 ? '{a bad idea} ' : '';
    return `${tags.filter(Boolean).join('\n')}\n\n1. e4 ${words}e5 ${['1-0', '0-1', '1/2-1/2', '*'][index % 4]}\n`.replace(
      'e5',
      index % 7 === 0 ? 'c5' : 'e5',
    );
  };
  const ids = async (filter: GameFilter): Promise<number[]> =>
    (await listGames(owner, filter, { count: 200 })).map(({ id }) => id);

  beforeAll(async () => {
    await useOwnDatabase('library_index_test');
    await migrateDatabase();
    owner = await newAccount('Owner');
    const stored = await store(Array.from({ length: 60 }, (_, index) => gameText(index)));
    const known = await listPlayers(owner);
    players = known.map(({ id }) => id);
    const self = known.find(({ name }) => name === 'Mirela')!;
    await changePlayer(owner, self.id, { isSelf: true, join: [] });
    owner = (await findOwner(owner.id))!;
    collection = (await makeCollection(owner, 'Some'))!.id;
    const some = stored.filter((_, index) => index % 4 === 1).map(({ id }) => id);
    await changeGames(owner, { ids: some }, { do: 'put', collection });
    await changeGames(owner, { ids: some.slice(0, 6) }, { do: 'label', label: 'to show' });
    await changeGames(owner, { ids: some.slice(4, 9) }, { do: 'delete' });
    await database()
      .update(games)
      .set({
        trend: 'turned',
        turningPoints: sql`id % 5`,
        depth: sql`10.1 + id % 4`,
        firstFigures: sql`array[40.3 + id, 1, 20, 2.5, 1, 0, 0, 3, 12.1, 0, 61]::real[]`,
        secondFigures: sql`array[60.7 - id, 1, 20, null, 1, 0, 2, 3, 31, 1, 80]::real[]`,
      })
      .where(sql`id % 3 = 0`);
    // which the owner has said, and not the names
    await database()
      .update(games)
      .set({ ownSide: 1 })
      .where(sql`id % 7 = 0`);
  });
  afterAll(closeDatabase);

  it('holds of any filter the games that the database holds', async () => {
    const day = fc.constantFrom(null, '2019', '2020-03', '2021-05-05');
    const end = fc.constantFrom(null, '0', '1', '12.1', '40.3', '60', '1600');
    const span = (ends: fc.Arbitrary<string | null>) =>
      fc.tuple(ends, ends).map(([from, to]) => spanText({ from, to }));
    const maybe = <T>(of: fc.Arbitrary<T>) => fc.option(of, { nil: undefined, freq: 3 });
    const filters = fc.record({
      kind: maybe(fc.constantFrom('chess', 'shogi')),
      text: maybe(fc.constantFrom('aino', 'EVENT 1', 'bad', 'zoe idea', '2020', '%', 'nobody')),
      player: maybe(fc.nat(3).map((index) => players[index]!)),
      against: maybe(fc.nat(3).map((index) => players[index]!)),
      playing: maybe(fc.constantFrom('first' as const, 'second' as const)),
      collection: maybe(fc.constant(collection)),
      opening: maybe(fc.constantFrom('kings', 'C20', 'オープン', 'sicilian', 'no such')),
      label: maybe(fc.constantFrom('to show', 'other')),
      date: maybe(span(day)),
      deleted: maybe(fc.constant('yes')),
      ...Object.fromEntries(
        RANGES.map((name) => [name, fc.option(span(end), { nil: undefined, freq: 1 })]),
      ),
      ...Object.fromEntries(
        CHOICE_NAMES.map((name) => [
          name,
          fc.option(
            fc
              .subarray([...CHOICES[name]] as string[], { minLength: 1 })
              .map((some) => some.join(',')),
            { nil: undefined, freq: 1 },
          ),
        ]),
      ),
    }) as fc.Arbitrary<GameFilter>;
    /** A few conditions at a time: all of them together hold nothing. */
    const some = fc
      .tuple(
        filters,
        fc.array(fc.nat(40), { minLength: 1, maxLength: 3 }),
        fc.option(fc.nat(3), { freq: 1 }),
      )
      .map(([filter, places, looking]) => {
        const entries = Object.entries(filter).filter(([, value]) => value !== undefined);
        const chosen =
          entries.length > 0 ? places.map((place) => entries[place % entries.length]!) : [];
        const viewpoint =
          looking === null ? {} : { player: players[looking]!, viewpoint: 'player' as const };
        return { ...(Object.fromEntries(chosen) as GameFilter), ...viewpoint };
      });
    let held = 0;
    await fc.assert(
      fc.asyncProperty(some, async (filter) => {
        const rows = await database()
          .select({ id: games.id })
          .from(games)
          .where(gamesOf(owner, filter));
        const wanted = rows.map(({ id }) => id).sort((a, b) => a - b);
        expect((await ids(filter)).sort((a, b) => a - b)).toEqual(wanted);
        expect((await stripOf(owner, filter)).games).toBe(wanted.length);
        if (wanted.length > 0) held++;
      }),
      { numRuns: 300 },
    );
    // or it would show nothing
    expect(held).toBeGreaterThan(100);
  });

  it('takes over what changes, whoever changed it', async () => {
    const [first] = await ids({});
    const named = (text: string) => ids({ text });
    await database()
      .update(games)
      .set({ searchText: 'by another hand' })
      .where(eq(games.id, first!));
    expect(await named('another')).toEqual([first]);
    const [{ id: fresh } = { id: 0 }] = await store([gameText(100).replace('"Event', '"Newest')]);
    expect(await named('newest')).toEqual([fresh]);
    await changeGames(owner, { ids: [fresh] }, { do: 'delete' });
    expect(await named('newest')).toEqual([]);
    expect(await ids({ text: 'newest', deleted: 'yes' })).toEqual([fresh]);
    await database().delete(games).where(eq(games.id, fresh));
    expect(await ids({ text: 'newest', deleted: 'yes' })).toEqual([]);
  });

  it('misses nothing of a transaction that began before another and ended after it', async () => {
    const [one, other] = await ids({});
    const write = (
      db: Pick<ReturnType<typeof database>, 'update'>,
      id: number,
      searchText: string,
    ) => db.update(games).set({ searchText }).where(eq(games.id, id));
    await database().transaction(async (tx) => {
      await write(tx, one!, 'slow paw');
      await write(database(), other!, 'quick paw');
      expect(await ids({ text: 'paw' })).toEqual([other]);
    });
    expect(new Set(await ids({ text: 'paw' }))).toEqual(new Set([one, other]));
  });

  it('is each owner’s own, and follows who the owner is', async () => {
    const stranger = await newAccount('Stranger');
    expect(await listGames(stranger, {}, { count: 9 })).toEqual([]);
    const won = await stripOf(owner, {});
    const aino = (await listPlayers(owner)).find(({ name }) => name === 'Aino')!;
    await changePlayer(owner, aino.id, { isSelf: true, join: [] });
    const asAino = (await findOwner(owner.id))!;
    const now = await stripOf(asAino, {});
    expect(now.games).toBe(won.games);
    expect(now.score).not.toEqual(won.score);
    const rows = await database()
      .select({ id: games.id })
      .from(games)
      .where(gamesOf(asAino, { outcome: 'won' }));
    expect(now.score.won).toBe(rows.length);
    const held = await listGames(asAino, { outcome: 'won' }, { count: 200 });
    expect(held.every(({ ownSide }) => ownSide !== null)).toBe(true);
    expect(
      await database().$count(
        games,
        inArray(
          games.id,
          held.map(({ id }) => id),
        ),
      ),
    ).toBe(rows.length);
  });

  it('is seen from another player’s side, as far as names tell, and follows who that is', async () => {
    const known = await listPlayers(owner);
    const otti = known.find(({ name }) => name === 'Ottilie')!;
    const seen = { player: otti.id, viewpoint: 'player' } as const;
    const sides = async () => {
      const shown = await listGames(owner, seen, { count: 200 });
      return shown.map(({ players, ownSide }) => [players[ownSide!], ownSide]);
    };
    const before = await sides();
    expect(before.length).toBeGreaterThan(10);
    expect(before.every(([name]) => name === 'Ottilie')).toBe(true);
    expect(new Set(before.map(([, side]) => side))).toEqual(new Set([0, 1]));
    const { score } = await stripOf(owner, seen);
    const won = { ...seen, outcome: 'won' } as const;
    expect(await listGames(owner, won, { count: 200 })).toHaveLength(score.won);
    expect(score).not.toEqual((await stripOf(owner, { player: otti.id })).score);

    const [{ id } = { id: 0 }] = await store([
      gameText(101)
        .replace(/White ".*"/, 'White "O. Perl"')
        .replace(/Black ".*"/, 'Black "X"'),
    ]);
    const perl = (await listPlayers(owner)).find(({ name }) => name === 'O. Perl')!;
    expect(await sides()).toHaveLength(before.length);
    await changePlayer(owner, otti.id, { join: [perl.id] });
    expect(await sides()).toHaveLength(before.length + 1);
    await changePlayer(owner, otti.id, { join: [], part: 'O. Perl' });
    expect(await sides()).toEqual(before);
    await database().delete(games).where(eq(games.id, id));
  });

  it('is read beforehand for those who are signed in, who came last first, until enough is held', async () => {
    expect(await warmLibraries()).toBe(0);
    await cookieOf('Owner');
    const all = await warmLibraries();
    expect(all).toBe(await database().$count(games, eq(games.ownerId, owner.id)));
    const late = await newAccount('Late');
    await database().transaction((tx) =>
      insertGames(tx, late, [prepareGame(recordFrom(gameText(0)))], 'test'),
    );
    await cookieOf('Late');
    expect(await warmLibraries()).toBe(all + 1);
    expect(await warmLibraries(1)).toBe(1);
    const ofOwner = eq(sessions.userId, owner.id);
    await database()
      .update(sessions)
      .set({ expiresAt: sql`now()` })
      .where(ofOwner);
    expect(await warmLibraries()).toBe(1);
  });
});
