import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { BaseFilterQuery } from '@/contract/bases';
import type { GameRecord } from '@/core/game/record';
import type { Move } from '@/core/game/move';
import { GAME_KINDS, type GameKind, type Position, type Side } from '@/core/game/ruleset';
import { gameInfo } from '@/core/game/info';
import { outcomeFor } from '@/core/game/score-share';
import { mainLine } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';
import { randomSource } from '@/engine/draw';
import {
  askBase,
  askOnward,
  findBaseGame,
  findBasePlayers,
  listBaseGames,
} from '@/server/base-answers';
import { loadBase, playedAt } from '@/server/loaded-base';
import {
  aloneWith,
  followLibrary,
  lockBase,
  staleBases,
  storeBaseGames,
} from '@/server/base-games';
import { indexBase } from '@/server/base-index';
import { admit, admitToBase } from '@/server/access';
import { listBases, makeBase, ownBases, removeBase, type BaseSource } from '@/server/bases';
import { changeGames } from '@/server/change-games';
import { makeCollection } from '@/server/collections';
import { closeDatabase, database, migrateDatabase } from '@/server/database';
import { departuresOf, withoutKnown } from '@/server/departures';
import type { Scope } from '@/core/review/sweep-settings';
import { findGame } from '@/server/games';
import { give, grantsTo, withdraw } from '@/server/grants';
import { insertGames } from '@/server/insert-games';
import { recordOf } from '@/server/games';
import type { Owner } from '@/server/owner';
import { prepareBaseGame } from '@/server/prepared-base-game';
import { changePlayer, listPlayers } from '@/server/players';
import { prepareGame } from '@/server/prepared-game';
import { enqueueBase, IMPORT_LANES, othersWait } from '@/server/queue';
import { baseBlocks, baseGames, basePlayers, bases, baseSegments, games } from '@/server/schema';
import { mainLineOf } from '../support/lines';
import { newAccount } from '../support/accounts';
import { useOwnDatabase } from '../support/database';
import { queued } from '../support/imports';

const RESULTS = ['1-0', '0-1', '1/2-1/2', '*'] as const;
const CONTROLS = [null, '300+3', '1800', '7200'];
const NAMES = ['Mirela', 'Aino', 'Zoë', null];

/** Games of few moves to choose from, so that they meet again and again, also in another order. */
function generated(kind: GameKind, count: number): GameRecord[] {
  const ruleset = rulesetOf(kind);
  const random = randomSource(5);
  const pick = <T>(values: readonly T[]): T => values[Math.floor(random() * values.length)]!;
  return Array.from({ length: count }, (_, index) => {
    const start =
      index % 10 === 3
        ? ruleset.write(ruleset.play(ruleset.start(), ruleset.moves(ruleset.start())[0]!))
        : ruleset.startText;
    let position = ruleset.start(start);
    const codes: string[] = [];
    for (let ply = 0; ply < 12; ply++) {
      const moves = ruleset.moves(position);
      const move = moves[Math.floor(random() ** 2 * Math.min(moves.length, 4))]!;
      codes.push(ruleset.code(move));
      position = ruleset.play(position, move);
    }
    const tag = (name: string, value: string | number | null) =>
      value === null ? [] : [{ name, value: String(value) }];
    return recordOf({
      kind,
      start,
      nodes: [{ id: 0, parent: null, move: '' }, ...codes.slice(0, 4 + (index % 9))],
      tags: [
        ...tag('White', pick(NAMES)),
        ...tag('Black', pick(NAMES)),
        ...tag('WhiteElo', pick([null, 1400, 1500, 1600])),
        ...tag('BlackElo', pick([null, 1400, 1500, 1600])),
        ...tag('Date', pick([null, '2001.05.06', '2002.01.01', '2003'])),
        ...tag('TimeControl', pick(CONTROLS)),
        ...tag('Rated', pick([null, 'yes', 'no'])),
        ...tag('Round', index),
      ],
      result: pick(RESULTS),
      endReason: null,
    });
  });
}

interface Met {
  record: GameRecord;
  /** What was played at each position, by its key. */
  played: Map<bigint, Set<Move | null>>;
}

/** The same by playing a game through. */
function playedThrough(record: GameRecord): Met {
  const ruleset = rulesetOf(record.tree.kind);
  const played: Met['played'] = new Map();
  let position = ruleset.start(record.tree.start);
  for (const move of [...mainLine(record.tree).map(({ move: made }) => made), null]) {
    const key = ruleset.key(position);
    played.set(key, (played.get(key) ?? new Set()).add(move));
    if (move !== null) position = ruleset.play(position, move);
  }
  return { record, played };
}

/** Whether a game is meant, asked of its tags. */
function isMeant({ record }: Met, filter: BaseFilterQuery, toMove: Side): boolean {
  const info = gameInfo(record);
  const within = (value: number | null, text: string | undefined): boolean => {
    if (text === undefined) return true;
    const [from = '', to = ''] = text.split('..');
    return value !== null && value >= Number(from) && value <= Number(to || 9999);
  };
  const control = info.timeControlText;
  const timeClass = control && { '300+3': 'blitz', '1800': 'rapid', '7200': 'long' }[control];
  return (
    within(info.players[toMove].rating, filter.rating) &&
    within(info.date === null ? null : Number(info.date.slice(0, 4)), filter.years) &&
    (!filter.timeClass || timeClass === filter.timeClass) &&
    (!filter.rated || info.rated === (filter.rated === 'yes')) &&
    (!filter.result || record.result === filter.result) &&
    (filter.fromStart !== 'yes' || record.tree.start === rulesetOf(record.tree.kind).startText)
  );
}

const FILTERS: BaseFilterQuery[] = [
  {},
  { rating: '1450..1550' },
  { years: '2002..' },
  { timeClass: 'blitz', rated: 'yes' },
  { result: '1-0' },
  { fromStart: 'yes', rating: '..1500' },
];

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('bases', { timeout: 120_000 }, () => {
  let owner: Owner;
  const fill = async (id: number): Promise<void> => {
    await followLibrary(id);
    await indexBase(id, () => Promise.resolve(true));
  };
  const made = async (name: string, kind: GameKind, source: BaseSource): Promise<number> => {
    const base = await makeBase(owner, { name, kind, source });
    if (typeof base === 'string') throw new Error(base);
    return base.id;
  };
  const takeIn = (id: number, records: readonly GameRecord[]): Promise<number> =>
    database().transaction(async (tx) =>
      storeBaseGames(
        tx,
        (await lockBase(tx, id))!,
        records.map((record) => prepareBaseGame(record)),
      ),
    );
  const store = (records: readonly GameRecord[]) =>
    database().transaction((tx) => insertGames(tx, owner, records.map(prepareGame), 'test'));
  const askedOf = async (id: number, position: string, query: BaseFilterQuery = {}) => {
    const answer = await askBase(owner, id, position, query);
    if (typeof answer === 'string') throw new Error(answer);
    return answer;
  };

  beforeAll(async () => {
    await useOwnDatabase('bases_test');
    await migrateDatabase();
    owner = await newAccount('Owner');
  });
  afterAll(closeDatabase);

  describe.each(GAME_KINDS)('of %s', (kind) => {
    const ruleset = rulesetOf(kind);
    const records = generated(kind, 120);
    const met = records.map(playedThrough);
    let id = 0;

    beforeAll(async () => {
      id = await made(`files ${kind}`, kind, { from: 'files' });
      // in parts of growing segments, the same games twice
      for (const [from, to] of [
        [0, 70],
        [60, 100],
        [100, 101],
        [101, 120],
      ] as const) {
        await takeIn(id, records.slice(from, to));
        await indexBase(id, () => Promise.resolve(true));
      }
    });

    /** Positions of the games, each with a text of it. */
    const positions = (): Map<bigint, Position> => {
      const found = new Map<bigint, Position>();
      for (const { tree } of records) {
        let position = ruleset.start(tree.start);
        found.set(ruleset.key(position), position);
        for (const { move } of mainLine(tree)) {
          position = ruleset.play(position, move);
          found.set(ruleset.key(position), position);
        }
      }
      return found;
    };

    it('holds a game once, in few segments', async () => {
      const [row] = await database().select().from(bases).where(eq(bases.id, id));
      expect(row).toMatchObject({ size: 120, indexed: 120 });
      const segments = await database()
        .select()
        .from(baseSegments)
        .where(eq(baseSegments.baseId, id));
      expect(segments.length).toBeLessThan(4);
    });

    it.each(FILTERS)('tells what looking at all games tells, asked for %j', async (filter) => {
      for (const [key, position] of positions()) {
        const toMove = ruleset.side(position);
        const meant = met.filter((one) => one.played.has(key) && isMeant(one, filter, toMove));
        const answer = await askedOf(id, ruleset.write(position), filter);
        expect(answer.games).toBe(meant.length);
        const byMove = new Map<string | null, Met[]>();
        for (const one of meant)
          for (const move of one.played.get(key)!) {
            const code = move === null ? null : ruleset.code(move);
            byMove.set(code, [...(byMove.get(code) ?? []), one]);
          }
        const count = (some: readonly Met[], outcome: string): number =>
          some.filter(({ record }) => outcomeFor(record.result, toMove) === outcome).length;
        const scoreOf = (some: readonly Met[]) => ({
          won: count(some, 'won'),
          drawn: count(some, 'drawn'),
          lost: count(some, 'lost'),
        });
        expect(
          new Map(answer.moves.map(({ move, games, score }) => [move, { games, score }])),
        ).toEqual(
          new Map(
            Array.from(byMove, ([move, some]) => [
              move,
              { games: some.length, score: scoreOf(some) },
            ]),
          ),
        );
        expect(answer.usual).toEqual(scoreOf(met.filter((one) => isMeant(one, filter, toMove))));
      }
    });

    it('tells by what other ways games came to where a move leads', async () => {
      const start = ruleset.start();
      const onward = await askOnward(owner, id, ruleset.write(start), {});
      if (typeof onward === 'string') throw new Error(onward);
      expect(onward.length).toBeGreaterThan(1);
      let more = 0;
      for (const { move, reached } of onward) {
        const key = ruleset.key(ruleset.play(start, ruleset.parseCode(move)!));
        expect(reached).toBe(met.filter(({ played }) => played.has(key)).length);
        more +=
          reached -
          met.filter(({ played }) => played.get(ruleset.key(start))?.has(ruleset.parseCode(move)!))
            .length;
      }
      expect(more).toBeGreaterThan(0);
    });

    it('lists the games of a position, and gives each as it was', async () => {
      const start = ruleset.startText;
      const [first] = (await askedOf(id, start)).moves;
      for (const order of ['rating', 'latest'] as const) {
        const listed = await listBaseGames(
          owner,
          id,
          start,
          {},
          { move: first!.move!, order },
          owner,
        );
        if (typeof listed === 'string') throw new Error(listed);
        expect(listed.length).toBe(Math.min(50, first!.games));
        const ranks = listed.map(({ ratings, date }) =>
          order === 'latest'
            ? Number(date?.slice(0, 4) ?? 0)
            : (ratings[0] ?? 0) + (ratings[1] ?? 0),
        );
        expect(ranks).toEqual(ranks.toSorted((a, b) => b - a));
        for (const { number, move, result, players } of listed) {
          expect(move).toBe(first!.move);
          const record = (await findBaseGame(owner, id, number))!;
          expect(record.result).toBe(result);
          expect(players).toEqual(gameInfo(record).players.map(({ name }) => name));
          const same = records.find(({ tags }) => tags.at(-1)!.value === record.tags.at(-1)!.value);
          expect({ ...record, tree: [...record.tree.nodes] }).toEqual({
            ...same!,
            tree: [...same!.tree.nodes],
          });
        }
      }
    });

    it('finds the games of a player, on either side or on one', async () => {
      for (const [side, sides] of [
        [undefined, [0, 1]],
        ['first', [0]],
        ['second', [1]],
      ] as const) {
        const { games: found } = await askedOf(id, ruleset.startText, {
          player: 'MIRELA',
          ...(side && { side }),
        });
        const key = ruleset.key(ruleset.start());
        expect(found).toBe(
          met.filter(
            ({ record, played }) =>
              played.has(key) &&
              sides.some((one) => gameInfo(record).players[one].name === 'Mirela'),
          ).length,
        );
      }
      expect((await askedOf(id, ruleset.startText, { player: 'Nobody' })).games).toBe(0);
      expect(await findBasePlayers(id, 'mir')).toEqual(['Mirela']);
      expect(await findBasePlayers(id, 'nobody_')).toEqual([]);
    });

    it('has nothing of what never came, and refuses what is no position', async () => {
      const empty = kind === 'chess' ? '8/8/8/8/8/8/8/K1k5 w - - 0 1' : '8k/9/9/9/9/9/9/9/K8 b - 1';
      expect(await askedOf(id, empty)).toMatchObject({ games: 0, moves: [] });
      expect(await askBase(owner, id, 'nonsense', {})).toBe('unfit');
      const other = rulesetOf(kind === 'chess' ? 'shogi' : 'chess').startText;
      expect(await askBase(owner, id, other, {})).toBe('unfit');
      const stranger = await newAccount(`Stranger ${kind}`);
      expect(await askBase(stranger, id, ruleset.startText, {})).toBe('missing');
      expect(await askOnward(stranger, id, ruleset.startText, {})).toBe('missing');
      expect(await findBaseGame(stranger, id, 0)).toBeNull();
      expect(await removeBase(stranger, id)).toBe(false);
    });
  });

  it.each([
    {
      kind: 'chess' as const,
      asIs: ['e2e4', 'e7e5', 'g1f3'],
      turned: ['e2e3', 'e7e5', 'e3e4', 'g8f6'],
    },
    {
      kind: 'shogi' as const,
      asIs: ['7g7f', '3c3d', '4i3h', '6a7b', '2g2f'],
      turned: ['7g7f', '3c3d', '4i4h', '6a7b', '4h3h', '8c8d'],
    },
  ])(
    'counts $kind games with colours reversed where that is asked',
    async ({ kind, asIs, turned }) => {
      const ruleset = rulesetOf(kind);
      const id = await made(`reversed ${kind}`, kind, { from: 'files' });
      const won = (codes: readonly string[], result: GameRecord['result']) => ({
        ...mainLineOf(kind, codes),
        result,
      });
      await takeIn(id, [won(asIs, '1-0'), won(turned, '0-1')]);
      await indexBase(id, () => Promise.resolve(true));
      const here = asIs
        .slice(0, -1)
        .reduce(
          (position, code) => ruleset.play(position, ruleset.parseCode(code)!),
          ruleset.start(),
        );
      const text = ruleset.write(here);
      const move = asIs.at(-1)!;
      const one = { move, games: 1, score: { won: 1, drawn: 0, lost: 0 } };
      const both = { move, games: 2, score: { won: 2, drawn: 0, lost: 0 } };
      expect(await askedOf(id, text)).toMatchObject({ games: 1, moves: [one] });
      expect(await askedOf(id, text, { reversed: 'yes' })).toMatchObject({
        games: 2,
        moves: [both],
        // White won one of two games, and Black the other
        usual: { won: 2, drawn: 0, lost: 2 },
      });
      // who won is meant as it is on the board
      const first = await askedOf(id, text, { reversed: 'yes', result: '1-0' });
      expect(first).toMatchObject({ games: 2, moves: [both] });
      const second = await askedOf(id, text, { reversed: 'yes', result: '0-1' });
      expect(second).toMatchObject({ games: 0, moves: [] });
      expect(await askOnward(owner, id, text, { reversed: 'yes' })).toMatchObject([
        { move, reached: 2 },
      ]);
      const listed = await listBaseGames(
        owner,
        id,
        text,
        { reversed: 'yes' },
        { move, order: 'latest' },
        owner,
      );
      expect(listed).toMatchObject([{ move }, { move }]);
      await removeBase(owner, id);
    },
  );

  it('answers from what it had, where its segments are joined between two questions', async () => {
    const id = await made('joined meanwhile', 'chess', { from: 'files' });
    const records = generated('chess', 40);
    await takeIn(id, records.slice(0, 20));
    await indexBase(id, () => Promise.resolve(true));
    const before = await loadBase(id, 1, 20);
    await takeIn(id, records.slice(20));
    await indexBase(id, () => Promise.resolve(true));
    const segments = await database()
      .select()
      .from(baseSegments)
      .where(eq(baseSegments.baseId, id));
    expect(segments.map(({ id: segment }) => segment)).not.toContain(before.segments[0]!.id);
    const met = new Map<bigint, Set<number>>();
    for (const [number, record] of records.slice(0, 20).entries())
      for (const key of playedThrough(record).played.keys())
        met.set(key, (met.get(key) ?? new Set()).add(number));
    const keys = [...met.keys()];
    const played = await playedAt(before, keys);
    expect(
      played.map((all) =>
        [...new Set(all.flatMap(({ games: some }) => some))].sort((a, b) => a - b),
      ),
    ).toEqual(keys.map((key) => [...met.get(key)!].sort((a, b) => a - b)));
    await removeBase(owner, id);
  });

  it('keeps what many games came to, and counts again when one of them leaves or another comes', async () => {
    const id = await made('many', 'chess', { from: 'files' });
    const one = (White: string, result: GameRecord['result']): GameRecord => ({
      ...mainLineOf('chess', ['e2e4', 'e7e5']),
      tags: [{ name: 'White', value: White }],
      result,
    });
    const { startText } = rulesetOf('chess');
    const told = async (query: BaseFilterQuery = {}) => {
      const { games: count, moves, usual } = await askedOf(id, startText, query);
      const onward = await askOnward(owner, id, startText, query);
      return { count, moves: moves.map(({ games, score }) => [games, score.won]), usual, onward };
    };
    const expected = (won: number, lost: number) => ({
      count: won + lost,
      moves: won + lost === 0 ? [] : [[won + lost, won]],
      usual: { won, drawn: 0, lost },
      onward: [{ move: 'e2e4', reached: won + lost, evaluation: null }],
    });
    await takeIn(
      id,
      Array.from({ length: 1200 }, (_, index) => one(`P${index}`, index < 700 ? '1-0' : '0-1')),
    );
    await indexBase(id, () => Promise.resolve(true));
    for (let time = 0; time < 2; time++) {
      expect(await told()).toEqual(expected(700, 500));
      expect(await told({ result: '0-1' })).toEqual(expected(0, 500));
    }
    await database()
      .update(baseGames)
      .set({ fingerprint: null })
      .where(and(eq(baseGames.baseId, id), eq(baseGames.number, 3)));
    await database()
      .update(bases)
      .set({ version: sql`version + 1` })
      .where(eq(bases.id, id));
    expect(await told()).toEqual(expected(699, 500));
    await takeIn(id, [one('Late', '0-1'), one('Later', '1-0')]);
    await indexBase(id, () => Promise.resolve(true));
    expect(await told()).toEqual(expected(700, 501));
    expect(await told({ result: '0-1' })).toEqual(expected(0, 501));
    await removeBase(owner, id);
  });

  it('means a player under all names that they have in the library', async () => {
    const reader = await newAccount('Joiner');
    const named = (White: string, Black: string) => ({
      ...mainLineOf('chess', ['e2e4', 'e7e5']),
      tags: Object.entries({ White, Black }).map(([name, value]) => ({ name, value })),
    });
    await database().transaction((tx) =>
      insertGames(
        tx,
        reader,
        [named('Ada Nom', 'X'), named('X', 'A. Nom'), named('X', 'Y')].map(prepareGame),
        'test',
      ),
    );
    const base = await makeBase(reader, {
      name: 'All',
      kind: 'chess',
      source: { from: 'library' },
    });
    if (typeof base === 'string') throw new Error(base);
    await fill(base.id);
    const gamesOf = async (query: BaseFilterQuery): Promise<number> => {
      const answer = await askBase(reader, base.id, rulesetOf('chess').startText, query);
      if (typeof answer === 'string') throw new Error(answer);
      return answer.games;
    };
    expect(await gamesOf({ player: 'ada nom' })).toBe(1);
    const all = await listPlayers(reader);
    const [ada, other] = ['Ada Nom', 'A. Nom'].map(
      (name) => all.find((player) => player.name === name)!.id,
    );
    await changePlayer(reader, ada!, { join: [other!] });
    expect(await gamesOf({ player: 'ada nom' })).toBe(2);
    expect(await gamesOf({ player: 'a. nom' })).toBe(2);
    expect(await gamesOf({ player: 'Ada Nom', side: 'second' })).toBe(1);
    expect(await gamesOf({ player: 'Y' })).toBe(1);
    expect(await gamesOf({ player: 'nobody' })).toBe(0);
  });

  it('lists the games of players whom the reader has met, the latest first', async () => {
    const [giver, met] = [await newAccount('Giver of games'), await newAccount('Met some')];
    const game = (White: string, Black: string, Date: string) => ({
      ...mainLineOf('chess', ['e2e4', 'e7e5']),
      tags: Object.entries({ White, Black, Date }).map(([name, value]) => ({ name, value })),
    });
    const storeFor = (one: Owner, records: GameRecord[]) =>
      database().transaction((tx) => insertGames(tx, one, records.map(prepareGame), 'test'));
    await storeFor(giver, [
      game('Ada Nom', 'Bo Lind', '2001'),
      game('Cy Dahl', 'Ada Nom', '2003'),
      game('Cy Dahl', 'Bo Lind', '2004'),
      game('Eli Moe', 'Bo Lind', '2002'),
    ]);
    const base = await makeBase(giver, { name: 'All', kind: 'chess', source: { from: 'library' } });
    if (typeof base === 'string') throw new Error(base);
    await fill(base.id);
    const listed = async (reader: Owner | null): Promise<(string | null)[][]> => {
      const games = await listBaseGames(
        giver,
        base.id,
        rulesetOf('chess').startText,
        {},
        { move: undefined, order: 'opponents' },
        reader,
      );
      if (typeof games === 'string') throw new Error(games);
      return games.map(({ players }) => players);
    };
    // one's own name, two opponents of whom one is joined to another name, and two who met each other
    await storeFor(met, [
      game('Met Some', 'Ada Nom', '2010'),
      game('E. Moe', 'Met Some', '2010'),
      game('Cy Dahl', 'Gil Rask', '2010'),
    ]);
    const idOf = async (name: string): Promise<number> =>
      (await listPlayers(met)).find((player) => player.name === name)!.id;
    await changePlayer(met, await idOf('Met Some'), { join: [], isSelf: true });
    const reader = { ...met, playerId: await idOf('Met Some') };
    expect(await listed(reader)).toEqual([
      ['Cy Dahl', 'Ada Nom'],
      ['Ada Nom', 'Bo Lind'],
    ]);
    await storeFor(met, [game('Eli Moe', 'Gil Rask', '2010')]);
    await changePlayer(met, await idOf('E. Moe'), { join: [await idOf('Eli Moe')] });
    expect(await listed(reader)).toEqual([
      ['Cy Dahl', 'Ada Nom'],
      ['Eli Moe', 'Bo Lind'],
      ['Ada Nom', 'Bo Lind'],
    ]);
    expect(await listed(await newAccount('Met nobody'))).toEqual([]);
    expect(await listed(null)).toEqual([]);
  });

  it('waits with its files for those that somebody takes into their library, and nobody waits for those of the demo', async () => {
    const base = await made('Filled later', 'chess', { from: 'files' });
    const unhurried = await queued(owner, 'demo.pgn', [Buffer.from('1. c4 *')], {
      base,
      isUnhurried: true,
    });
    const forBase = await queued(owner, 'base.pgn', [Buffer.from('1. e4 *')], { base });
    const forLibrary = await queued(owner, 'own.pgn', [Buffer.from('1. d4 *')]);
    const { rows } = await database().execute<{ key: string; lane: string | null }>(
      sql`select key, queue_name as lane from graphile_worker.jobs where key like 'import:%' order by priority, id`,
    );
    expect(rows).toEqual([
      { key: `import:${forLibrary.id}`, lane: null },
      { key: `import:${forBase.id}`, lane: IMPORT_LANES.base },
      { key: `import:${unhurried.id}`, lane: IMPORT_LANES.nobody },
    ]);
    await removeBase(owner, base);
  });

  it('whose files come in goes by turns: the first of one goes before the second of another', async () => {
    const [one, other] = await Promise.all([newAccount('One'), newAccount('Other')]);
    const named = new Map<string, string>();
    for (const [name, who] of [
      ['first of one', one],
      ['second of one', one],
      ['third of one', one],
      ['first of other', other],
      ['second of other', other],
    ] as const)
      named.set(`import:${(await queued(who, name, [Buffer.from('1. d4 *')])).id}`, name);
    const { rows } = await database().execute<{ key: string }>(
      sql`select key from graphile_worker.jobs where key like 'import:%' order by priority, id`,
    );
    expect(rows.flatMap(({ key }) => named.get(key) ?? [])).toEqual([
      'first of one',
      'first of other',
      'second of one',
      'second of other',
      'third of one',
    ]);
  });

  it('gives its turn up where it is told so, and goes on behind it', async () => {
    const base = await made('In turns', 'chess', { from: 'files' });
    await takeIn(base, generated('chess', 3));
    expect(await indexBase(base, () => Promise.resolve(false))).toBe(false);
    expect(await indexBase(base, () => Promise.reject(new Error('nothing is left')))).toBe(true);
    await removeBase(owner, base);
  });

  it('leaves games that come in meanwhile to a turn of their own', async () => {
    const base = await made('Meanwhile', 'chess', { from: 'files' });
    const [early, late] = [generated('chess', 3), generated('chess', 8).slice(3)];
    await takeIn(base, early);
    const comeIn = async (): Promise<boolean> => {
      await takeIn(base, late);
      return true;
    };
    expect(await indexBase(base, comeIn)).toBe(true);
    const state = () =>
      database()
        .select({ indexed: bases.indexed, size: bases.size })
        .from(bases)
        .where(eq(bases.id, base));
    expect(await state()).toEqual([{ indexed: 3, size: 8 }]);
    expect(await indexBase(base, () => Promise.resolve(true))).toBe(true);
    expect(await state()).toEqual([{ indexed: 8, size: 8 }]);
    await removeBase(owner, base);
  });

  it('is filled by one at a time, and others meanwhile', async () => {
    const filled: string[] = [];
    await aloneWith(1, async () => {
      await aloneWith(1, () => Promise.resolve(void filled.push('twice')));
      await aloneWith(2, () => Promise.resolve(void filled.push('another')));
    });
    const failing = aloneWith(1, () => Promise.reject(new Error('the disk is full')));
    await expect(failing).rejects.toThrow('the disk is full');
    await aloneWith(1, () => Promise.resolve(void filled.push('once more')));
    expect(filled).toEqual(['another', 'once more']);
  });

  it('gives its turn up for others alone', async () => {
    const [one, other] = [
      await made('One', 'chess', { from: 'files' }),
      await made('Other', 'chess', { from: 'files' }),
    ];
    await database().execute(sql`delete from graphile_worker._private_jobs`);
    await enqueueBase(database(), one);
    expect(await othersWait('base', one)).toBe(false);
    expect(await othersWait('base', other)).toBe(true);
    expect(await othersWait('sweep', other)).toBe(false);
    await database().execute(
      sql`update graphile_worker._private_jobs set locked_at = now(), locked_by = 'a worker' where key = ${`base:${one}`}`,
    );
    expect(await othersWait('base', other)).toBe(false);
    // who had a turn goes behind those that had none, however long ago
    await enqueueBase(database(), one, true);
    await enqueueBase(database(), other);
    const { rows } = await database().execute<{ key: string }>(
      sql`select key from graphile_worker.jobs where locked_at is null and task_identifier = 'base' order by priority, run_at, id`,
    );
    expect(rows.map(({ key }) => key)).toEqual([`base:${other}`, `base:${one}`]);
    for (const base of [one, other]) await removeBase(owner, base);
  });

  it('follows the library: what comes, changes, moves or is deleted', async () => {
    const { startText } = rulesetOf('chess');
    const records = generated('chess', 13).filter(({ tree }) => tree.start === startText);
    const stored = await store(records);
    const all = stored.map(({ id }) => id);
    const collection = await makeCollection(owner, 'followed');
    const id = await made('library', 'chess', { from: 'library' });
    const some = await made('collection', 'chess', { from: 'collection', id: collection!.id });
    const sizes = async () => {
      const stale = await staleBases();
      for (const base of [id, some]) if (stale.includes(base)) await fill(base);
      const listed = await listBases(owner, 'chess');
      return [id, some].map((base) => listed.find((one) => one.id === base)!.games);
    };
    const asked = async (base: number): Promise<number> => (await askedOf(base, startText)).games;
    expect(await sizes()).toEqual([12, 0]);
    expect(await asked(id)).toBe(12);
    // as long as others are in the middle of writing, it is looked at again: what they write may belong to it
    await expect
      .poll(async () => (await sizes()) && (await staleBases()), { timeout: 30_000 })
      .not.toContain(some);
    await changeGames(owner, { ids: all.slice(0, 5) }, { do: 'put', collection: collection!.id });
    expect(await sizes()).toEqual([12, 5]);
    expect(await asked(some)).toBe(5);
    await changeGames(owner, { ids: all.slice(0, 2) }, { do: 'delete' });
    expect(await sizes()).toEqual([10, 3]);
    expect([await asked(id), await asked(some)]).toEqual([10, 3]);
    // of what has left nothing is kept that could be read
    const left = await database()
      .select()
      .from(baseGames)
      .where(and(eq(baseGames.baseId, id), isNull(baseGames.fingerprint)));
    expect(left).toHaveLength(2);
    for (const { number, moves, tags } of left) {
      expect([moves.length, tags]).toEqual([0, []]);
      expect(await findBaseGame(owner, id, number)).toBeNull();
    }
    // a changed game counts as it is now
    await database()
      .update(games)
      .set({ version: 2, result: '1-0' })
      .where(inArray(games.id, [all[2]!]));
    expect(await sizes()).toEqual([10, 3]);
    expect([await asked(id), await asked(some)]).toEqual([10, 3]);
  });

  it.each(GAME_KINDS)(
    'tells where a game of %s left it, the game itself not counted',
    async (kind) => {
      const ruleset = rulesetOf(kind);
      const reader = await newAccount(`Reader ${kind}`);
      const lines = generated(kind, 60).filter(({ tree }) => tree.start === ruleset.startText);
      const [own, ...others] = lines;
      const stored = await database().transaction((tx) =>
        insertGames(tx, reader, lines.map(prepareGame), 'test'),
      );
      const library = await makeBase(reader, { name: 'all', kind, source: { from: 'library' } });
      const few = await makeBase(reader, { name: 'few', kind, source: { from: 'files' } });
      await makeBase(reader, { name: 'none', kind, source: { from: 'files' } });
      if (typeof library === 'string' || typeof few === 'string') throw new Error('refused');
      // the same game from a file is the game itself too
      await takeIn(few.id, [own!, others[0]!]);
      for (const { id } of [library, few]) await fill(id);
      const codes = (record: GameRecord) =>
        mainLine(record.tree).map(({ move }) => ruleset.code(move));
      for (const [base, known] of [
        ['all', others],
        ['few', others.slice(0, 1)],
      ] as const) {
        const departures = await departuresOf(reader, reader, stored[0]!.id);
        expect(departures.map((one) => one.base.name)).toEqual(['all', 'few']);
        const found = departures.find((one) => one.base.name === base)!;
        const met = known.map(playedThrough);
        let position = ruleset.start();
        let ply = 0;
        const went = (move: Move | null): number =>
          met.filter(({ played }) => played.get(ruleset.key(position))?.has(move)).length;
        for (const code of codes(own!)) {
          const move = ruleset.parseCode(code)!;
          if (went(move) === 0) break;
          position = ruleset.play(position, move);
          ply++;
        }
        const isWhole = ply === codes(own!).length;
        expect(found.ply).toBe(isWhole ? null : ply + 1);
        const best = Math.max(0, ...ruleset.moves(position).map(went));
        expect(found.usual?.games ?? 0).toBe(best);
        if (found.usual) expect(went(ruleset.parseCode(found.usual.move!))).toBe(best);
      }
      const stranger = await newAccount(`Passer-by ${kind}`);
      // a sweep passes over what a base knows: it begins where the game left it
      const game = (await findGame(reader, stored[0]!.id))!;
      const last = codes(own!).length;
      const average = { nodes: 1000 };
      const over = (moves: Scope, who = reader) => withoutKnown(who, game, { average, moves });
      const whole = (from: number, more: Scope = {}) =>
        from > 1 || Object.keys(more).length > 0
          ? { average, moves: { ...more, ...(from > 1 ? { from } : {}) } }
          : { average };
      for (const [{ id }, name] of [
        [library, 'all'],
        [few, 'few'],
      ] as const) {
        const found = (await departuresOf(reader, reader, game.id)).find(
          ({ base }) => base.name === name,
        )!;
        const left = found.ply ?? last;
        expect(await over({ known: id })).toEqual(whole(left));
        expect(await over({ known: id, side: 1 })).toEqual(whole(left, { side: 1 }));
        expect(await over({ known: id, from: last })).toEqual(whole(last));
        expect(await over({ known: id, to: 1 })).toEqual(whole(1, { to: 1 }));
        // nobody else's base, nor one that is not there
        expect(await over({ known: id }, stranger)).toEqual({ average });
        expect(await over({ known: id + 1_000_000, to: 9 })).toEqual(whole(1, { to: 9 }));
      }
      expect(await withoutKnown(reader, game, { average })).toEqual({ average });
      expect(await departuresOf(reader, stranger, stored[0]!.id)).toEqual([]);
      expect(await departuresOf(stranger, reader, stored[0]!.id)).toEqual([]);
    },
  );

  it('is given to a person to be asked, and nothing else with it', async () => {
    const [giver, reader, stranger] = [
      await newAccount('Giver'),
      await newAccount('Taker'),
      await newAccount('Looker'),
    ];
    const records = generated('chess', 8);
    const [first] = await database().transaction((tx) =>
      insertGames(tx, giver, records.map(prepareGame), 'test'),
    );
    const base = await makeBase(giver, {
      name: 'shared',
      kind: 'chess',
      source: { from: 'library' },
    });
    if (typeof base === 'string') throw new Error(base);
    await fill(base.id);
    const asker = (account: Owner) => ({ account, links: [] });
    const rights = async () =>
      Promise.all(
        [giver, reader, stranger].map(
          async (one) => (await admitToBase(asker(one), base.id))?.right ?? null,
        ),
      );
    expect(await rights()).toEqual(['own', null, null]);
    expect(await listBases(reader)).toEqual([]);
    const gift = {
      scope: { of: 'base', id: base.id },
      to: 'Taker',
      right: 'read',
      until: null,
    } as const;
    const given = await give(giver, gift);
    if (typeof given === 'string') throw new Error(given);
    expect(given).toMatchObject({ scope: gift.scope, title: 'shared', grantee: 'Taker' });
    expect(await rights()).toEqual(['own', 'read', null]);
    expect((await admitToBase(asker(reader), base.id))?.owner.id).toBe(giver.id);
    expect(await listBases(reader, 'chess')).toMatchObject([{ id: base.id, givenBy: 'Giver' }]);
    expect(await listBases(reader, 'shogi')).toEqual([]);
    expect(await listBases(giver)).toMatchObject([{ id: base.id, givenBy: null }]);
    expect(await ownBases(reader)).toEqual([]);
    // of the library nothing is given, nor may the base be taken away
    expect(await admit(asker(reader), first!.id)).toBeNull();
    expect(await removeBase(reader, base.id)).toBe(false);
    const own = await database().transaction((tx) =>
      insertGames(tx, reader, [prepareGame(generated('chess', 9).at(-1)!)], 'test'),
    );
    const left = async (one: Owner) =>
      (await departuresOf(reader, one, own[0]!.id)).map((found) => found.base.name);
    expect(await left(reader)).toEqual(['shared']);
    expect(await left(stranger)).toEqual([]);
    expect(await grantsTo(asker(reader))).toMatchObject([{ id: given.id, title: 'shared' }]);
    // who has all games has no base with them
    await give(giver, { scope: { of: 'all' }, to: 'Looker', right: 'edit', until: null });
    expect(await rights()).toEqual(['own', 'read', null]);
    expect(await give(giver, { ...gift, scope: { of: 'base', id: base.id + 999 } })).toBe(
      'missing',
    );
    expect(await give(stranger, gift)).toBe('missing');
    expect(await withdraw(giver, given.id)).toBe(true);
    expect(await rights()).toEqual(['own', null, null]);
    // over, it counts no more
    await give(giver, { ...gift, until: '2020-01-01' });
    expect(await rights()).toEqual(['own', null, null]);
  });

  it('is refused twice under one name, of what is not there, and where there are too many', async () => {
    const make = (name: string, source: BaseSource) =>
      makeBase(owner, { name, kind: 'chess', source });
    await make('taken', { from: 'files' });
    expect(await make('taken', { from: 'library' })).toBe('taken');
    const stranger = await newAccount('Collector');
    const theirs = await makeCollection(stranger, 'theirs');
    expect(await make('other', { from: 'collection', id: theirs!.id })).toBe('missing');
    for (let index = (await listBases(owner)).length; index < 50; index++)
      expect(await make(`base ${index}`, { from: 'files' })).toHaveProperty('id');
    expect(await make('one more', { from: 'files' })).toBe('tooMany');
  });

  it('goes with all that it holds', async () => {
    const [base] = (await listBases(owner)).filter(({ name }) => name === 'files chess');
    expect(await removeBase(owner, base!.id)).toBe(true);
    for (const table of [baseGames, basePlayers, baseSegments])
      expect(await database().$count(table, eq(table.baseId, base!.id))).toBe(0);
    const segments = await database().select({ id: baseSegments.id }).from(baseSegments);
    const left = await database().selectDistinct({ id: baseBlocks.segmentId }).from(baseBlocks);
    for (const { id } of left) expect(segments.map((one) => one.id)).toContain(id);
  });
});
