import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { GameRecord } from '@/core/game/record';
import type { Branch, Step } from '@/core/game/steps';
import { mainLine, positionsAlong, ROOT } from '@/core/game/tree';
import { readGames, type Format } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { rulesetOf } from '@/core/rulesets';
import { cpScore } from '@/core/game/score';
import { closeDatabase, database, migrateDatabase } from '@/server/database';
import { mainQuestion } from '@/core/ask/evaluate';
import { questionText } from '@/core/ask/question';
import { sweptPositions } from '@/core/ask/swept';
import { recordAsk } from '@/server/asks';
import { positionKey, storeEvaluation } from '@/server/evaluations';
import { listGames, stripOf } from '@/server/library';
import { insertGames } from '@/server/insert-games';
import { reviewOf } from '@/server/findings';
import { changesSince, findGame, saveSteps } from '@/server/games';
import { queued } from '../support/imports';
import { cancelImport, findImport } from '@/server/imports';
import { listLessons } from '@/server/lessons';
import { occurrencesOf } from '@/server/occurrences';
import { prepareGame } from '@/server/prepared-game';
import { demoOwner, type Owner } from '@/server/owner';
import { cancelSweep, latestSweep, startSweep } from '@/server/sweeps';
import { thinkingAnswer, thinkingStop } from '@/server/thinking';
import { newAccount } from '../support/accounts';
import { useOwnDatabase } from '../support/database';

const record = (text: string, format: Format = 'pgn'): GameRecord => {
  const [reading] = [...readGames(text, format)];
  if (!reading || !isRead(reading)) throw new Error(JSON.stringify(reading));
  return reading.record;
};

const PGN = `[Event "Store test"]
[White "Mirela Tanase"]
[Black "Jonas Brandt"]
[WhiteElo "1836"]
[WhiteCountry "AUT"]
[Date "2026.03.14"]
[UTCDate "2026.03.14"]
[UTCTime "13:00:05"]
[Round "4"]
[Rated "yes"]
[TimeControl "900+10"]
[Termination "time forfeit"]
[Board "7"]

1. e4 {words [%clk 0:15:00]} e5 (1... c5 2. Nf3) 2. Nf3 1-0
`;

const insert = (owner: Owner, games: GameRecord[], copies = false) =>
  database().transaction((tx) =>
    insertGames(tx, owner, games.map(prepareGame), 'test.pgn', copies),
  );

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('stored games', () => {
  let owner: Owner;
  let stranger: Owner;
  beforeAll(async () => {
    await useOwnDatabase('games_test');
    await migrateDatabase();
    owner = await demoOwner();
    stranger = await newAccount('Somebody Else');
  });
  afterAll(closeDatabase);

  it('come back whole, with what is known of them in columns', async () => {
    const game = record(PGN);
    const [insertion] = await insert(owner, [game]);
    const stored = await findGame(owner, insertion!.id);
    expect(stored!.record).toEqual(game);
    const { rows } = await database().execute(sql`select * from games where id = ${insertion!.id}`);
    expect(rows[0]).toMatchObject({
      first_player: 'Mirela Tanase',
      first_rating: 1836,
      first_country: 'AUT',
      second_player: 'Jonas Brandt',
      event: 'Store test',
      round: '4',
      date: '2026-03-14',
      time: '13:00:05Z',
      rated: true,
      time_control: '900+10',
      result: '1-0',
      source: 'test.pgn',
      plies: 3,
    });
  });

  it('keep byoyomi, ends and handicaps of shogi', async () => {
    const kif =
      '手合割：飛車落ち\n下手：佐倉 結\n上手：浜口 志朗\n持ち時間：30分+30秒\n   1 ３四歩(33)   ( 0:16/00:00:16)\n   2 ７六歩(77)\n   3 投了\n';
    const [insertion] = await insert(owner, [record(kif, 'kif')]);
    const { rows } = await database().execute(sql`select * from games where id = ${insertion!.id}`);
    expect(rows[0]).toMatchObject({
      kind: 'shogi',
      handicap: 'rook',
      time_control: '30分+30秒',
      end_reason: 'resignation',
      result: '1-0',
      first_player: '佐倉 結',
    });
  });

  it('are found by the key of any main-line position', async () => {
    const game = record(PGN.replace('Store test', 'Keys'));
    const ruleset = rulesetOf('chess');
    const [insertion] = await insert(owner, [
      record(PGN.replace('2026.03.14', '2026.03.15').replace('Store test', 'Keys')),
    ]);
    const line = mainLine(game.tree);
    for (const [ply, position] of positionsAlong(ruleset, game.tree.start, line).entries()) {
      const { occurrences, total } = await occurrencesOf(owner, 'chess', position, 0);
      const found = occurrences.find(({ gameId }) => gameId === insertion!.id);
      expect(found).toMatchObject({ node: ply === 0 ? ROOT : line[ply - 1]!.id });
      expect(total).toBe(occurrences.length);
      const others = await occurrencesOf(owner, 'chess', position, insertion!.id);
      expect(others.total).toBe(total - 1);
      expect((await occurrencesOf(stranger, 'chess', position, 0)).total).toBe(0);
      expect((await occurrencesOf(owner, 'shogi', position, 0)).total).toBe(0);
    }
  });

  it('are recognised when they come again, and kept as copies when asked', async () => {
    const game = record(PGN.replace('"4"', '"5"'));
    const [first] = await insert(owner, [game]);
    const [again] = await insert(owner, [
      { ...game, tags: [...game.tags, { name: 'Annotator', value: 'x' }] },
    ]);
    expect(again).toEqual({ id: first!.id, duplicate: true });
    const [copy] = await insert(owner, [game], true);
    expect(copy).toMatchObject({ duplicate: false });
    expect(copy!.id).not.toBe(first!.id);
    const twice = await insert(owner, [
      record(PGN.replace('"4"', '"6"')),
      record(PGN.replace('"4"', '"6"')),
    ]);
    expect(twice.map(({ duplicate }) => duplicate)).toEqual([false, true]);
    expect(twice[1]!.id).toBe(twice[0]!.id);
    // as copies, each is a game of its own
    const copies = await insert(
      owner,
      [record(PGN.replace('"4"', '"6"')), record(PGN.replace('"4"', '"6"'))],
      true,
    );
    expect(copies.map(({ duplicate }) => duplicate)).toEqual([false, false]);
    expect(new Set([...copies, ...twice].map(({ id }) => id)).size).toBe(3);
  });

  it('are known by what they are now, not by what they were', async () => {
    const played = (round: string) => record(PGN.replace('"4"', `"${round}"`));
    const [first, second] = await insert(owner, [played('31'), played('32')]);
    const round = (value: string): Step => ({ type: 'tag', name: 'Round', value });
    await saveSteps(owner, first!.id, 1, [round('33')]);
    // what it was can come in again, what it is now is known
    expect(await insert(owner, [played('33')])).toEqual([{ id: first!.id, duplicate: true }]);
    expect(await insert(owner, [played('31')])).toMatchObject([{ duplicate: false }]);
    // edited to be the same as another, it stays a game of its own
    expect(await saveSteps(owner, first!.id, 2, [round('32')])).toEqual({
      saved: true,
      version: 3,
    });
    expect(await insert(owner, [played('32')])).toEqual([{ id: second!.id, duplicate: true }]);
    expect(await saveSteps(owner, first!.id, 3, [round('32')])).toEqual({
      saved: true,
      version: 4,
    });
    const { rows } = await database().execute(
      sql`select distinct author_id from game_steps where game_id = ${first!.id}`,
    );
    expect(rows).toEqual([{ author_id: owner.id }]);
  });

  it('are listed stretch by stretch, each once, however many share a date or have none', async () => {
    const reader = await newAccount('Reader');
    const dates = ['2026.03.14', '2026.03.14', '2025.??.??', '????.??.??'];
    const many = Array.from({ length: 107 }, (_, index) =>
      record(
        PGN.replace('2026.03.14', dates[index % 4]!)
          .replace('[UTCDate "2026.03.14"]\n', '')
          .replace('"4"', `"${index}"`),
      ),
    );
    await insert(reader, many);
    const stretch = (from: number) => listGames(reader, {}, { from, count: 50 });
    const stretches = await Promise.all([0, 50, 100, 150].map(stretch));
    expect(stretches.map((games) => games.length)).toEqual([50, 50, 7, 0]);
    const listed = stretches.flat();
    expect(new Set(listed.map(({ id }) => id)).size).toBe(107);
    const order = listed.map(({ date, id }) => `${date ?? ''} ${String(id).padStart(9, '0')}`);
    expect(order).toEqual(order.toSorted().reverse());
  });

  it('belong to their owner alone', async () => {
    const [insertion] = await insert(owner, [record(PGN.replace('"4"', '"7"'))]);
    const { id } = insertion!;
    expect(await findGame(stranger, id)).toBeNull();
    expect(await startSweep(stranger, id, { depth: 4, lines: 1 })).toBeNull();
    const step: Step = { type: 'annotate', node: ROOT, field: 'comment', value: 'mine' };
    expect(await saveSteps(stranger, id, 1, [step])).toEqual({ saved: false, reason: 'missing' });
    expect(await listGames(stranger, {}, { count: 9 })).toEqual([]);
    expect((await findGame(owner, id))!.record.tree.nodes.get(ROOT)!.comment).toBeUndefined();
  });

  it('keep the findings of the last complete sweep until a newer one is complete', async () => {
    const [insertion] = await insert(owner, [record(PGN.replace('Store test', 'findings'))], true);
    const { id } = insertion!;
    const game = (await findGame(owner, id))!;
    const [start] = sweptPositions(game.record);
    const find = (depth: number, engine: string, cp: number) => {
      const settings = questionText(mainQuestion('chess', start!.root, { depth, lines: 1 }));
      return storeEvaluation(
        { kind: 'chess', ...positionKey('chess', start!), engine, settings, onlyMove: '' },
        { depth: 5, nodes: 9, milliseconds: 1, lines: [{ score: cpScore(cp), moves: ['e2e4'] }] },
      );
    };
    const shown = async () => {
      const found = (await reviewOf(owner, game)).shown;
      const score = found?.evaluations[0]?.[1].lines[0]?.score;
      return { cp: score?.kind === 'cp' ? score.cp : null, by: found?.sweep.settings ?? null };
    };
    expect(await shown()).toEqual({ cp: null, by: null });

    const first = (await startSweep(owner, id, { depth: 3, lines: 1 }))!;
    expect(await shown()).toEqual({ cp: null, by: null });
    await recordAsk(first.id, { state: 'running', version: 'one' });
    await find(3, 'one', 11);
    expect(await shown()).toEqual({ cp: 11, by: first.settings });
    await recordAsk(first.id, { state: 'done' });

    const second = (await startSweep(owner, id, { depth: 4, lines: 1 }))!;
    expect(await shown()).toEqual({ cp: 11, by: first.settings });
    await recordAsk(second.id, { state: 'running', version: 'two' });
    await find(4, 'two', 22);
    expect(await shown()).toEqual({ cp: 11, by: first.settings });
    await cancelSweep(owner, second.id);
    expect(await shown()).toEqual({ cp: 11, by: first.settings });

    const third = (await startSweep(owner, id, { depth: 4, lines: 1 }))!;
    await cancelSweep(owner, third.id);
    expect(await shown()).toEqual({ cp: 11, by: first.settings });
    const fourth = (await startSweep(owner, id, { depth: 4, lines: 1 }))!;
    await recordAsk(fourth.id, { state: 'running', version: 'two' });
    await recordAsk(fourth.id, { state: 'done' });
    expect(await shown()).toEqual({ cp: 22, by: fourth.settings });
  });

  it('have sweeps, imports and questions that are no business of others', async () => {
    const [insertion] = await insert(owner, [record(PGN.replace('"4"', '"14"'))]);
    const { id } = insertion!;
    const sweep = (await startSweep(owner, id, { depth: 4, lines: 1 }))!;
    expect(await latestSweep(stranger, id)).toBeNull();
    expect(await cancelSweep(stranger, sweep.id)).toBe(false);
    expect(await latestSweep(owner, id)).toMatchObject({ id: sweep.id, state: 'queued' });
    expect(await cancelSweep(owner, sweep.id)).toBe(true);
    expect(await thinkingStop(stranger, id, null, 1)).toBeNull();
    // where there is no such stop nothing of the game is told
    expect(await thinkingStop(owner, id, null, 99)).toMatchObject({ count: 0, moves: [] });
    expect(await thinkingAnswer(stranger, id, null, 1, 'e2e4')).toBeNull();
    const file = await queued(owner, 'own.pgn', [new TextEncoder().encode(PGN)]);
    expect(await findImport(stranger, file.id)).toBeNull();
    expect(await cancelImport(stranger, file.id)).toBe(false);
    expect(await findImport(owner, file.id)).toMatchObject({ state: 'queued' });
    expect(await cancelImport(owner, file.id)).toBe(true);
  });

  it('are searched by words that mean nothing to SQL', async () => {
    await insert(owner, [record(PGN.replace('Jonas Brandt', "O'Hara_100%"))]);
    const found = async (text: string) => (await stripOf(owner, { text })).games;
    expect(await found("o'hara_100%")).toBe(1);
    expect(await found('o_hara')).toBe(0);
    expect(await found("'; drop table games; --")).toBe(0);
    expect(await found('tanase mirela')).toBeGreaterThan(0);
  });

  it('change by steps only, each counted; a stale save is refused and offered as a merge', async () => {
    const [insertion] = await insert(owner, [record(PGN.replace('"4"', '"8"'))]);
    const { id } = insertion!;
    const say = (node: number, value: string): Step => ({
      type: 'annotate',
      node,
      field: 'comment',
      value,
    });
    const first = await saveSteps(owner, id, 1, [say(ROOT, 'first'), say(2, 'second')]);
    expect(first).toMatchObject({ saved: true, version: 3 });
    const stale = await saveSteps(owner, id, 1, [say(1, 'late')]);
    expect(stale).toMatchObject({
      saved: false,
      reason: 'stale',
      version: 3,
      steps: [say(ROOT, 'first'), say(2, 'second')],
    });
    expect(await changesSince(owner, id, 2)).toEqual({ version: 3, steps: [say(2, 'second')] });
    expect(await changesSince(stranger, id, 2)).toBeNull();
    expect((await findGame(owner, id))!.record.tree.nodes.get(1)!.comment).toBe('words');
    expect(await saveSteps(owner, id, 3, [say(1, 'late')])).toMatchObject({
      saved: true,
      version: 4,
    });
    const removed = await saveSteps(owner, id, 4, [{ type: 'remove', node: 2 }]);
    expect(removed).toMatchObject({ saved: true });
    const { rows } = await database().execute(
      sql`select length(keys) / 8 as count from game_keys where game_id = ${id}`,
    );
    expect(rows[0]).toEqual({ count: 4 });
    expect(await saveSteps(owner, id, 4, [say(2, 'gone')])).toMatchObject({
      reason: 'stale',
      steps: [{ type: 'remove', node: 2 }],
    });
    expect(await saveSteps(owner, id, 5, [say(2, 'gone')])).toMatchObject({ reason: 'unfit' });
  });

  it('are found again by their lessons, with the position of each', async () => {
    const text = PGN.replace('"4"', '"11"').replace('words', '[%lesson Take the centre] words');
    const [insertion] = await insert(owner, [record(text)]);
    const lessons = (await listLessons(owner)).filter(({ gameId }) => gameId === insertion!.id);
    expect(lessons).toEqual([
      expect.objectContaining({ words: 'Take the centre', node: 1, move: 'e2e4', kind: 'chess' }),
    ]);
    expect(lessons[0]!.position).toContain('4P3');
    expect(await listLessons(stranger)).toEqual([]);
  });

  it('are found by a position that came up in their main line', async () => {
    const moves = '1. a4 a5 2. h4 h5 3. Ra3 1-0';
    const own = (round: string) =>
      record(PGN.replace('"4"', `"${round}"`).replace(/1\. e4[\s\S]*/, `${moves}\n`));
    const [first, second] = await insert(owner, [own('12'), own('13')]);
    const chess = rulesetOf('chess');
    const { tree } = own('12');
    const position = positionsAlong(chess, tree.start, mainLine(tree)).at(-2)!;
    const found = await occurrencesOf(owner, 'chess', position, first!.id);
    expect(found.total).toBe(1);
    expect(found.occurrences[0]).toMatchObject({ gameId: second!.id, next: 'Ra3', node: 4 });
    expect((await occurrencesOf(stranger, 'chess', position, 0)).total).toBe(0);

    // a variation that becomes the main line is found, and what it takes the place of no longer
    const other = tree.nodes.get(ROOT)!.children[0]!;
    const branch: Branch = [{ id: 900, parent: null, move: chess.parseCode('d2d4')! }];
    const { id } = second!;
    await saveSteps(owner, id, 1, [{ type: 'insert', parent: ROOT, index: 1, branch }]);
    await saveSteps(owner, id, 2, [{ type: 'place', node: 900, index: 0 }]);
    expect((await occurrencesOf(owner, 'chess', position, first!.id)).total).toBe(0);
    await saveSteps(owner, id, 3, [{ type: 'place', node: other, index: 0 }]);
    expect((await occurrencesOf(owner, 'chess', position, first!.id)).total).toBe(1);
    // nor is what is taken away
    await saveSteps(owner, id, 4, [{ type: 'remove', node: other }]);
    expect((await occurrencesOf(owner, 'chess', position, first!.id)).total).toBe(0);
  });

  it('two saves at once: one wins, the other is told', async () => {
    const [insertion] = await insert(owner, [record(PGN.replace('"4"', '"9"'))]);
    const step = (value: string): Step => ({ type: 'annotate', node: 1, field: 'comment', value });
    const outcomes = await Promise.all(
      ['a', 'b', 'c'].map((value) => saveSteps(owner, insertion!.id, 1, [step(value)])),
    );
    expect(outcomes.filter(({ saved }) => saved)).toHaveLength(1);
    expect((await findGame(owner, insertion!.id))!.version).toBe(2);
  });
});
