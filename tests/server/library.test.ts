import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { CHOICE_NAMES, CHOICES, RANGES, type GameFilter } from '@/contract/game-filter';
import { COLUMNS, gameSummarySchema, type Column, type GameSummary } from '@/contract/library';
import { outcomeFor } from '@/core/game/score-share';
import { packFigures, SIDE_FIGURES, type SideFigure } from '@/core/review/game-figures';
import { changeGames, removeDeleted } from '@/server/change-games';
import { listCollections, makeCollection } from '@/server/collections';
import { closeDatabase, database, migrateDatabase } from '@/server/database';
import { reckonAnew } from '@/server/findings';
import { fillOpenings, fillSearched } from '@/server/fill';
import { findGame } from '@/server/games';
import { insertGames } from '@/server/insert-games';
import { listGames, listLabels, noteOpened, stripOf } from '@/server/library';
import { findOwner, type Owner } from '@/server/owner';
import { changePlayer, listPlayers } from '@/server/players';
import { prepareGame } from '@/server/prepared-game';
import { listFilters, removeFilter, saveFilter } from '@/server/saved-filters';
import { asks, games } from '@/server/schema';
import { startSweep } from '@/server/sweeps';
import { newAccount } from '../support/accounts';
import { useOwnDatabase } from '../support/database';
import { recordFrom } from '../support/games';

const ALL = { count: 200 };

/** Twelve games of Mirela, and one of others, unlike in all that can be asked for. */
const TEXTS = Array.from({ length: 12 }, (_, index) => {
  const isFirst = index % 2 === 0;
  const [white, black] = isFirst
    ? ['Mirela', `Jonas ${index % 3}`]
    : [`Jonas ${index % 3}`, 'Mirela'];
  const result = ['1-0', '0-1', '1/2-1/2', '*'][index % 4]!;
  return `[White "${white}"]
[Black "${black}"]
[WhiteElo "${1500 + 37 * index}"]
[BlackElo "${1900 - 11 * index}"]
[Event "${['Club', 'Autumn Cup', 'Café blitz'][index % 3]}"]
[Date "20${10 + index}.0${1 + (index % 9)}.1${index % 9}"]
[Time "${index === 3 ? '??:??' : `${String(2 * index).padStart(2, '0')}:30:00`}"]
[TimeControl "${['180', '900', '7200', '?'][index % 4]}"]
[Result "${result}"]

${index % 3 === 0 ? '{A quiet Start to it}' : ''} 1. e4 e5 ${index % 4 === 0 ? '2. Nf3 (2. f4 exf4) Nc6' : ''} ${index % 5 === 0 ? '3. Bc4' : ''} ${result}
`;
});

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('the library', () => {
  let owner: Owner;
  let stranger: Owner;
  let ids: number[];

  const insert = (to: Owner, texts: readonly string[]) =>
    database().transaction((tx) =>
      insertGames(
        tx,
        to,
        texts.map((text) => prepareGame(recordFrom(text))),
        'test',
      ),
    );

  beforeAll(async () => {
    await useOwnDatabase('library_test');
    await migrateDatabase();
    owner = await newAccount('Owner');
    stranger = await newAccount('Stranger');
    ids = (await insert(owner, [...TEXTS, '1. d4 *'])).map(({ id }) => id);
    await insert(stranger, [TEXTS[0]!]);
    const self = (await listPlayers(owner)).find(({ name }) => name === 'Mirela')!;
    await changePlayer(owner, self.id, { isSelf: true, join: [] });
    owner = (await findOwner(owner.id))!;
    // half of them have been gone over
    for (const [index, id] of ids.entries()) {
      if (index % 2 === 1) continue;
      const side = (more: number) =>
        packFigures(
          Object.fromEntries(
            SIDE_FIGURES.map((name, place) => [name, index === 4 ? null : place + index + more]),
          ) as Record<SideFigure, number | null>,
        );
      await database()
        .update(games)
        .set({
          trend: index === 0 ? null : 'turned',
          turningPoints: index,
          depth: 11.5 + index,
          firstFigures: side(0),
          secondFigures: side(0.5),
        })
        .where(eq(games.id, id));
    }
    await noteOpened(owner, ids[5]!);
    await noteOpened(stranger, ids[6]!);
  });
  afterAll(closeDatabase);

  const list = (filter: GameFilter = {}, by: Column = 'date', way: 'up' | 'down' = 'down') =>
    listGames(owner, filter, { order: { by, way }, ...ALL });
  const idsOf = (found: readonly GameSummary[]): number[] => found.map(({ id }) => id);

  /** What a column says of a game, reckoned from the game itself. */
  const value = (game: GameSummary, name: (typeof RANGES)[number]): number | null => {
    const { figures, ownSide, ratings, plies, time } = game;
    const own = (figure: SideFigure): number | null =>
      ownSide === null ? null : (figures?.[ownSide][figure] ?? null);
    switch (name) {
      case 'hour':
        return time === null ? null : Number(time.slice(0, 2));
      case 'moves':
        return Math.ceil(plies / 2);
      case 'rating':
      case 'otherRating':
        return ownSide === null ? null : ratings[(name === 'rating') === (ownSide === 0) ? 0 : 1];
      case 'otherAccuracy':
        return ownSide === null ? null : (figures?.[ownSide === 0 ? 1 : 0].accuracy ?? null);
      case 'worst':
        return most(game, 'worstLoss');
      case 'accuracy':
      case 'peak':
        return own(name);
      case 'turningPoints':
      case 'depth':
        return game[name];
      default:
        return most(game, name);
    }
  };
  /** Of the owner's side, or the greater of both where that is not known. */
  const most = ({ figures, ownSide }: GameSummary, figure: SideFigure): number | null => {
    if (!figures) return null;
    if (ownSide !== null) return figures[ownSide][figure];
    const both = figures.flatMap((side) => side[figure] ?? []);
    return both.length > 0 ? Math.max(...both) : null;
  };

  it.each(RANGES)('is filtered by %s, both ends counted in', async (name) => {
    const all = await list();
    const known = all.flatMap((game) => value(game, name) ?? []);
    expect(known.length).toBeGreaterThan(2);
    const [low, high] = [Math.min(...known), Math.max(...known)];
    for (const [from, to] of [
      [low, null],
      [null, high],
      [low, low],
      [high, high],
      [null, low - 0.25],
      [high + 0.25, null],
    ] as const) {
      const span = `${from ?? ''}..${to ?? ''}`;
      const expected = all.filter((game) => {
        const at = value(game, name);
        return at !== null && at >= (from ?? at) && at <= (to ?? at);
      });
      expect(idsOf(await list({ [name]: span })), span).toEqual(idsOf(expected));
    }
  });

  const choice: Record<(typeof CHOICE_NAMES)[number], (game: GameSummary) => string> = {
    outcome: ({ result, ownSide }) =>
      (ownSide === null ? null : outcomeFor(result, ownSide)) ?? 'unknown',
    side: ({ ownSide }) => (ownSide === null ? 'unknown' : ownSide === 0 ? 'first' : 'second'),
    timeClass: ({ timeClass }) => timeClass ?? 'unknown',
    rated: ({ rated }) => (rated === null ? 'unknown' : rated ? 'yes' : 'no'),
    end: ({ end }) => end ?? 'unknown',
    trend: ({ trend }) => trend ?? 'unknown',
    swept: ({ depth }) => (depth === null ? 'no' : 'yes'),
    annotated: ({ annotated }) => (annotated ? 'yes' : 'no'),
    opened: ({ lastOpened }) => (lastOpened === null ? 'no' : 'yes'),
  };
  it.each(CHOICE_NAMES)('is filtered by %s, one value or several', async (name) => {
    const all = await list();
    const values: readonly string[] = CHOICES[name];
    for (const wanted of [...values.map((one) => [one]), values.slice(0, 2)])
      expect(idsOf(await list({ [name]: wanted.join(',') })), wanted.join()).toEqual(
        idsOf(all.filter((game) => wanted.includes(choice[name](game)))),
      );
  });

  it('are found by the code or the name of their opening, in either language', async () => {
    const found = async (opening: string) => (await list({ opening })).length;
    const open = (await list()).filter(({ opening }) => opening?.startsWith('C')).length;
    expect(open).toBeGreaterThan(5);
    expect(await found('オープン・ゲーム')).toBeGreaterThan(0);
    expect(await found('KING')).toBeGreaterThan(0);
    expect(await found('C')).toBe(open);
    expect(await found('D0')).toBe(0);
    // those that were stored before openings had names
    await database().update(games).set({ opening: null }).where(eq(games.ownerId, owner.id));
    expect(await found('C')).toBe(0);
    await fillOpenings();
    expect(await found('C')).toBe(open);
  });

  it('are written as pages expect them, with nothing beside', async () => {
    const strict = gameSummarySchema.strict();
    const shown = (await list()).map((game) => strict.parse(game));
    expect(shown).toHaveLength(ids.length);
    const swept = shown.find(({ id }) => id === ids[2])!;
    expect(swept.figures).toEqual(
      [0, 0.5].map((more) =>
        Object.fromEntries(SIDE_FIGURES.map((name, place) => [name, place + 2 + more])),
      ),
    );
    expect(shown.find(({ id }) => id === ids[1])!.figures).toBeNull();
  });

  it('knows for itself what a game was for its owner', async () => {
    const [first, second, third] = (await list({}, 'date', 'up')).slice(0, 3);
    expect([first, second, third].map((game) => choice.outcome(game!))).toEqual([
      'won',
      'won',
      'drawn',
    ]);
    expect(idsOf(await list({ annotated: 'yes' }, 'date', 'up'))).toEqual(
      [0, 3, 4, 6, 8, 9].map((index) => ids[index]),
    );
    expect(idsOf(await list({ opened: 'yes' }))).toEqual([ids[5]]);
  });

  it.each([
    ['2014..2016', [4, 5, 6]],
    ['2014-05..2016-07', [4, 5, 6]],
    ['2014-06..2016-06', [5]],
    ['2015-06-15..2015-06-15', [5]],
    ['..2010', [0]],
    ['2021..', [11]],
  ])('is filtered by date, %s', async (date, expected) => {
    expect(idsOf(await list({ date }, 'date', 'up'))).toEqual(expected.map((index) => ids[index]));
  });

  it('finds words that were written in games, whatever their case', async () => {
    expect(idsOf(await list({ text: 'QUIET start' }, 'date', 'up'))).toEqual(
      [0, 3, 6, 9].map((index) => ids[index]),
    );
    expect(idsOf(await list({ text: 'cafe quiet' }))).toEqual([]);
    expect(idsOf(await list({ text: 'autumn 2014' }))).toEqual([ids[4]]);
    expect(idsOf(await list({ text: '%' }))).toEqual([]);
    // and in games that were stored before words were looked at
    await database().update(games).set({ searchText: null, words: null, annotated: false });
    await fillSearched();
    expect(await list({ text: 'quiet start' })).toHaveLength(4);
    expect(await list({ annotated: 'yes' })).toHaveLength(6);
  });

  it.each(COLUMNS)('is ordered by %s either way, unknown last', async (by) => {
    const [up, down] = [await list({}, by, 'up'), await list({}, by, 'down')];
    expect(new Set(idsOf(up)).size).toBe(13);
    expect(new Set(idsOf(down))).toEqual(new Set(ids));
    // one game has no date
    if (by === 'date') expect([up, down].map((list) => list.at(-1)!.date)).toEqual([null, null]);
    const range = RANGES.find((name) => name === by);
    if (!range) return;
    for (const [found, sign] of [
      [up, 1],
      [down, -1],
    ] as const) {
      const values = found.map((game) => value(game, range));
      const known = values.filter((one) => one !== null);
      expect(values.slice(0, known.length)).toEqual(known);
      expect(known).toEqual(known.toSorted((a, b) => sign * (a - b)));
    }
  });

  it.each(['up', 'down'] as const)(
    'has the latest first of those that a column does not tell apart, %s',
    async (way) => {
      const latest = idsOf(await list({}, 'date', 'down'));
      for (const by of ['outcome', 'timeClass'] as const) {
        const valueOf = choice[by];
        const found = await list({}, by, way);
        const values = new Set(found.map(valueOf));
        expect(values.size).toBeGreaterThan(1);
        for (const one of values) {
          const alike = found.filter((game) => valueOf(game) === one);
          const places = idsOf(alike).map((id) => latest.indexOf(id));
          expect(places).toEqual(places.toSorted((a, b) => a - b));
        }
      }
    },
  );

  it('comes in stretches that fit each other, and nothing of others', async () => {
    const order = { by: 'outcome', way: 'up' } as const;
    const stretches = await Promise.all(
      [0, 5, 10, 15].map((from) => listGames(owner, {}, { order, from, count: 5 })),
    );
    expect(idsOf(stretches.flat())).toEqual(idsOf(await list({}, 'outcome', 'up')));
    expect(await listGames(stranger, {}, ALL)).toHaveLength(1);
    expect(await listGames(stranger, { player: owner.playerId! }, ALL)).toEqual([]);
  });

  it('is told in figures', async () => {
    const all = await list();
    const outcomes = (name: string) => all.filter((game) => choice.outcome(game) === name).length;
    const accuracies = all.flatMap((game) => value(game, 'accuracy') ?? []);
    const mean = accuracies.reduce((sum, one) => sum + one, 0) / accuracies.length;
    const variance =
      accuracies.reduce((sum, one) => sum + (one - mean) ** 2, 0) / (accuracies.length - 1);
    expect(await stripOf(owner, {})).toEqual({
      games: 13,
      score: { won: outcomes('won'), drawn: outcomes('drawn'), lost: outcomes('lost') },
      accuracy: {
        mean: expect.closeTo(mean, 3) as number,
        error: expect.closeTo(Math.sqrt(variance / accuracies.length), 3) as number,
        games: accuracies.length,
      },
      swept: 7,
      annotated: 6,
    });
    expect(await stripOf(owner, { date: '2010' + '..2010' })).toMatchObject({
      games: 1,
      accuracy: { games: 1, error: null },
    });
    expect(await stripOf(owner, { text: 'nothing of the kind' })).toEqual({
      games: 0,
      score: { won: 0, drawn: 0, lost: 0 },
      accuracy: null,
      swept: 0,
      annotated: 0,
    });
  });

  it('has tags, put on and taken off many games at once', async () => {
    const tag = (filter: GameFilter & { ids?: number[] }, label: string) =>
      changeGames(owner, filter, { do: 'label', label });
    expect(await tag({ side: 'first' }, 'to show')).toBe(6);
    expect(await tag({ ids: ids.slice(0, 2) }, 'to show')).toBe(2);
    expect(await tag({ ids: [ids[0]!] }, 'endings')).toBe(1);
    expect(await listLabels(owner)).toEqual([
      { label: 'endings', games: 1 },
      { label: 'to show', games: 7 },
    ]);
    expect(idsOf(await list({ label: 'endings' }))).toEqual([ids[0]]);
    expect((await list({ label: 'endings' }))[0]!.labels).toEqual(['to show', 'endings']);
    expect(await changeGames(stranger, { ids }, { do: 'label', label: 'x' })).toBe(0);
    await changeGames(owner, {}, { do: 'unlabel', label: 'to show' });
    await changeGames(owner, {}, { do: 'unlabel', label: 'endings' });
    expect(await listLabels(owner)).toEqual([]);
  });

  it('puts all games of a filter into a collection and takes them out, but not into one of others', async () => {
    const { id } = (await makeCollection(owner, 'Cup'))!;
    const count = async () => (await listCollections(owner))[0]!.games;
    const put = { do: 'put', collection: id } as const;
    expect(await changeGames(owner, { text: 'autumn' }, put)).toBe(4);
    expect(await changeGames(owner, { text: 'autumn' }, put)).toBe(0);
    expect(await count()).toBe(4);
    expect(await changeGames(owner, { ids: [ids[1]!] }, { ...put, do: 'takeOut' })).toBe(1);
    expect(await count()).toBe(3);
    expect(await changeGames(stranger, {}, put)).toBe('missing');
    expect(await count()).toBe(3);
    // what is deleted is not counted
    const at = new Date().toISOString();
    await changeGames(owner, { collection: id }, { do: 'delete' }, new Date(at));
    expect(await count()).toBe(0);
    expect(await changeGames(owner, { deleted: at }, { do: 'restore' })).toBe(3);
    expect(await count()).toBe(3);
  });

  it('lets games go for a month, and brings them back as they were', async () => {
    const [first, second] = [ids[0]!, ids[1]!];
    await startSweep(owner, first, { depth: 3, lines: 1 });
    const remove = (id: number, at: string) =>
      changeGames(owner, { ids: [id] }, { do: 'delete' }, new Date(at));
    const at = '2026-03-01T10:00:00.125Z';
    expect(await remove(first, at)).toBe(1);
    expect(await remove(second, '2026-03-01T11:00:00.000Z')).toBe(1);
    expect(await findGame(owner, first)).toBeNull();
    expect(await list()).toHaveLength(11);
    expect(idsOf(await list({ deleted: 'yes' }))).toEqual([second, first]);
    expect(idsOf(await list({ deleted: at }))).toEqual([first]);
    const [sweep] = await database().select().from(asks).where(eq(asks.gameId, first));
    expect(sweep!.state).toBe('cancelled');
    // what was said of it under other rules holds nobody up
    await database().update(asks).set({ state: 'done', rules: 0 }).where(eq(asks.gameId, first));
    await reckonAnew();
    // it can be taken in anew meanwhile, and then there are two of it
    const [again] = await insert(owner, [TEXTS[1]!]);
    expect(again!.duplicate).toBe(false);
    expect(await changeGames(stranger, { deleted: 'yes' }, { do: 'restore' })).toBe(0);
    expect(await changeGames(owner, { deleted: at }, { do: 'restore' })).toBe(1);
    expect(await findGame(owner, first)).not.toBeNull();
    expect(await findGame(owner, second)).toBeNull();
    expect(await changeGames(owner, {}, { do: 'restore' })).toBe(1);
    expect(await list()).toHaveLength(14);
    // those that are back are known as what they were
    const known = await insert(owner, TEXTS.slice(0, 2));
    expect(known.map(({ duplicate }) => duplicate)).toEqual([true, true]);
    expect(known[0]!.id).toBe(first);

    await remove(second, new Date(Date.now() - 29.9 * 24 * 3600 * 1000).toISOString());
    await remove(again!.id, new Date(Date.now() - 30.1 * 24 * 3600 * 1000).toISOString());
    await removeDeleted();
    expect(idsOf(await list({ deleted: 'yes' }))).toEqual([second]);
    await changeGames(owner, {}, { do: 'restore' });
  });

  it('keeps filters under names, for their owner alone', async () => {
    const saved = await saveFilter(owner, 'Wins', 'outcome=won');
    await saveFilter(owner, 'Losses', 'outcome=lost');
    expect(await saveFilter(owner, 'Wins', 'outcome=won&sort=-date')).toEqual({
      ...saved,
      query: 'outcome=won&sort=-date',
    });
    expect((await listFilters(owner)).map(({ name }) => name)).toEqual(['Losses', 'Wins']);
    expect(await listFilters(stranger)).toEqual([]);
    expect(await removeFilter(stranger, saved.id)).toBe(false);
    expect(await removeFilter(owner, saved.id)).toBe(true);
    expect(await removeFilter(owner, saved.id)).toBe(false);
    expect(await listFilters(owner)).toHaveLength(1);
  });
});
