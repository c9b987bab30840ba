import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { GET as listLeft } from '@/app/api/games/left/route';
import { GET as listPartings } from '@/app/api/games/[id]/preparation/route';
import { DELETE as removeSheet, PUT as restoreSheet } from '@/app/api/preparation/[id]/route';
import { GET as listDoubts } from '@/app/api/preparation/doubts/route';
import { GET as checkGames } from '@/app/api/preparation/games/route';
import { POST as prepareFromGames } from '@/app/api/preparation/own/route';
import { GET as findPrepared } from '@/app/api/preparation/position/route';
import { GET as listSheets, POST as prepareLines } from '@/app/api/preparation/route';
import { GET as showPreparation } from '@/app/api/preparation/tree/route';
import type { GameRecord } from '@/core/game/record';
import type { Result } from '@/core/game/result';
import { GAME_KINDS, type GameKind } from '@/core/game/ruleset';
import { cpScore } from '@/core/game/score';
import { toJson } from '@/core/game/serial';
import { lineTree, nodeOf, type GameTree } from '@/core/game/tree';
import { joinedLines } from '@/core/preparation/lines';
import { rulesetOf } from '@/core/rulesets';
import { REVIEW_RULES, type SweepFindings } from '@/core/review/findings';
import { admit } from '@/server/access';
import { archiveOf } from '@/server/archive';
import { recordAsk } from '@/server/asks';
import { followLibrary } from '@/server/base-games';
import { indexBase } from '@/server/base-index';
import { makeBase, ownBases } from '@/server/bases';
import { closeDatabase, migrateDatabase } from '@/server/database';
import { createGame, findGame, saveSteps, setOwnSide } from '@/server/games';
import { give } from '@/server/grants';
import { countGames } from '@/server/library';
import { findOwner, type Owner } from '@/server/owner';
import { prepareLines as put } from '@/server/preparation-sheets';
import { startSweep } from '@/server/sweeps';
import { cookieOf, newAccount } from '../support/accounts';
import { useOwnDatabase } from '../support/database';
import { mainLineOf } from '../support/lines';

type Handler = (
  request: Request,
  context: { params: Promise<{ id: string } | undefined> },
) => Promise<Response>;

const HOST = '127.0.0.1:3210';
const chess = rulesetOf('chess');
/** First moves of either game: a main one, its answer, one’s own next, another answer, another own move, a third answer. */
const MOVES = {
  chess: ['e2e4', 'e7e5', 'g1f3', 'c7c5', 'b1c3', 'b8c6'],
  shogi: ['7g7f', '3c3d', '2g2f', '8c8d', '6g6f', '4c4d'],
} as const;

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('preparation', { timeout: 60_000 }, () => {
  let owner: Owner;
  let cookie = '';
  let accounts = 0;

  const ask = async (
    handler: Handler,
    {
      id,
      query = '',
      body,
      method = body === undefined ? 'GET' : 'POST',
    }: { id?: number; query?: string; body?: unknown; method?: string } = {},
  ): Promise<[number, unknown]> => {
    const request = new Request(`http://${HOST}/api?${query}`, {
      method,
      headers: { host: HOST, cookie },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    const params = Promise.resolve(id === undefined ? undefined : { id: String(id) });
    const response = await handler(request, { params });
    if (response.status === 204) return [204, null];
    const answer = (await response.json()) as { error?: string };
    return [response.status, response.ok ? answer : answer.error];
  };
  const record = (kind: GameKind, codes: readonly string[], result: Result = '*'): GameRecord => ({
    ...mainLineOf(kind, codes),
    result,
  });
  /** A game of the owner as the first side, against somebody. */
  const play = async (kind: GameKind, codes: readonly string[], result: Result = '1-0') => {
    const first = kind === 'chess' ? 'White' : 'Black';
    const second = kind === 'chess' ? 'Black' : 'White';
    const tags = [
      { name: first, value: 'Mirela Tanase' },
      { name: second, value: `Opponent ${Math.random()}` },
    ];
    const { id } = await createGame(owner, { ...record(kind, codes, result), tags });
    await setOwnSide(owner, id, 0);
    return id;
  };
  const sheetOf = async (kind: GameKind, codes: readonly string[], more: object = {}) => {
    const body = { lines: toJson(record(kind, codes)), ...more };
    const [status, answer] = await ask(prepareLines, { query: `kind=${kind}&side=first`, body });
    expect([status, answer]).toMatchObject([201, {}]);
    return answer as { id: number; added: number };
  };

  beforeAll(async () => {
    await useOwnDatabase('preparation_test');
    await migrateDatabase();
  });
  afterAll(closeDatabase);
  beforeEach(async () => {
    const name = `Player ${++accounts}`;
    owner = await newAccount(name);
    cookie = await cookieOf(name);
  });

  describe.each(GAME_KINDS)('of %s', (kind) => {
    const [one, answer, two, other, third, rare] = MOVES[kind];
    const first = `kind=${kind}&side=first`;
    const ruleset = rulesetOf(kind);

    it('takes lines into the sheet that they fit best, each once', async () => {
      const format = kind === 'chess' ? 'pgn' : 'kif';
      const { id, added } = await sheetOf(kind, [one, answer, two]);
      expect(added).toBe(3);
      expect(await sheetOf(kind, [one, other, two])).toEqual({ id, added: 2 });
      expect(await sheetOf(kind, [one, answer])).toEqual({ id, added: 0 });
      const named = await sheetOf(kind, [third], { name: 'A quiet start' });
      expect(named.id).not.toBe(id);
      expect(await sheetOf(kind, [third, answer])).toEqual({ id: named.id, added: 1 });
      expect(await sheetOf(kind, [third], { sheet: id })).toEqual({ id, added: 1 });
      expect(await ask(listSheets, { query: first })).toEqual([
        200,
        [
          { id, name: null, lines: 3, moves: 6, format, swept: null },
          { id: named.id, name: 'A quiet start', lines: 1, moves: 2, format, swept: null },
        ],
      ]);
      expect(await ask(listSheets, { query: `kind=${kind}&side=second` })).toEqual([200, []]);
    });

    it('tells of a game where it left the preparation, on its Desk, in the list and on the page', async () => {
      await sheetOf(kind, [one, answer, two]);
      const mine = await play(kind, [one, answer, third]);
      const theirs = await play(kind, [one, other, two]);
      const held = await play(kind, [one, answer]);
      const ended = await play(kind, [one, answer, two, other]);
      await play(kind, []);
      const partings = async (id: number) => (await ask(listPartings, { id }))[1];
      expect(await partings(mine)).toEqual([{ side: 0, ply: 3, by: 'self', prepared: [two] }]);
      expect(await partings(theirs)).toEqual([
        { side: 0, ply: 2, by: 'opponent', prepared: [answer] },
      ]);
      expect(await partings(held)).toEqual([{ side: 0, ply: null, by: null, prepared: [two] }]);
      expect(await partings(ended)).toEqual([{ side: 0, ply: 4, by: 'end', prepared: [] }]);
      const [, checked] = await ask(checkGames, { query: first });
      const before = ruleset.write(
        [one, answer].reduce(
          (position, code) => ruleset.play(position, ruleset.parseCode(code)!),
          ruleset.start(),
        ),
      );
      expect((checked as { id: number }[]).find(({ id }) => id === mine)).toMatchObject({
        by: 'self',
        ply: 3,
        prepared: [two],
        move: third,
        position: before,
        node: 3,
      });
      expect(checked).toHaveLength(5);
      const [, left] = await ask(listLeft, { query: `games=${mine},${held}` });
      expect(left).toMatchObject([
        { id: mine, base: null, preparation: { by: 'self', left: { ply: 3, move: third } } },
        { id: held, base: null, preparation: { by: null, left: null } },
      ]);
    });

    it('finds what is prepared for a position by whatever way it came', async () => {
      const { id } = await sheetOf(kind, [one, answer, two]);
      const position = encodeURIComponent(ruleset.startText);
      expect(await ask(findPrepared, { query: `kind=${kind}&position=${position}` })).toEqual([
        200,
        [{ side: 0, moves: [one], at: { sheet: id, node: 0 } }],
      ]);
      expect(await ask(findPrepared, { query: `kind=${kind}&position=nonsense` })).toEqual([
        422,
        'unfit',
      ]);
    });

    it('reckons what is missing by the games of a base, and of those the opponents of a rating', async () => {
      await sheetOf(kind, [one, answer, two]);
      for (const [codes, times] of [
        [[one, answer, two, other], 6],
        [[one, other], 3],
        [[third], 4],
      ] as const)
        for (let time = 0; time < times; time++) await play(kind, codes);
      const base = await makeBase(owner, { name: 'Mine', kind, source: { from: 'library' } });
      if (typeof base === 'string') throw new Error(base);
      await followLibrary(base.id);
      await indexBase(base.id, () => Promise.resolve(true));
      const [made] = await ownBases(owner);
      // the sheet itself is no game of the library
      expect(made).toMatchObject({ games: 13, indexed: 13 });
      const query = `${first}&base=${base.id}`;
      const [status, shown] = await ask(showPreparation, { query });
      expect(status).toBe(200);
      const { stretches, gaps } = shown as {
        stretches: { moves: string[]; expected: number }[];
        gaps: { kind: string; move: string; expected: number; games: number; of: number }[];
      };
      expect(
        stretches.map(({ moves, expected }) => [moves.join(' '), Math.round(expected)]),
      ).toEqual([
        [one, 100],
        [`${answer} ${two}`, 67],
      ]);
      expect(gaps).toMatchObject([
        { kind: 'end', move: other, games: 6, of: 6, way: [one, answer, two] },
        { kind: 'reply', move: other, games: 3, of: 9, way: [one] },
      ]);
      expect(gaps.map(({ expected }) => Math.round(expected))).toEqual([67, 33]);
      // none of the opponents has a rating
      const rated = await ask(showPreparation, { query: `${query}&rating=1500..1600` });
      expect(rated[1]).toMatchObject({ gaps: [] });
      expect(await ask(showPreparation, { query: first })).toMatchObject([
        200,
        { gaps: [], stretches: [{ expected: null, moves: [one, answer, two] }] },
      ]);
      const [, left] = await ask(listLeft, {
        query: `games=${await play(kind, [one, answer, two, rare])}`,
      });
      expect(left).toMatchObject([
        { base: { name: 'Mine', games: 6, left: { ply: 4 }, usual: { move: other, games: 6 } } },
      ]);
    });

    it('takes lines from own games that came up and did well often enough', async () => {
      const body = { games: 2, share: 50, plies: 10 };
      expect(await ask(prepareFromGames, { query: first, body })).toEqual([422, 'none']);
      for (let time = 0; time < 2; time++) {
        await play(kind, [one, answer, two]);
        await play(kind, [third, answer, two], '0-1');
      }
      expect(await ask(prepareFromGames, { query: first, body })).toMatchObject([
        201,
        { added: 3 },
      ]);
      expect(await ask(prepareFromGames, { query: first, body })).toMatchObject([
        201,
        { added: 0 },
      ]);
      const second = { query: `kind=${kind}&side=second`, body };
      expect(await ask(prepareFromGames, second)).toEqual([422, 'none']);
    });
  });

  it('is no game of the library, and goes to nobody with it', async () => {
    const { id } = await sheetOf('chess', ['e2e4']);
    expect(await countGames(owner)).toBe(0);
    // the same moves without names are another game
    const game = await createGame(owner, record('chess', ['e2e4']));
    expect(game).toMatchObject({ duplicate: false });
    expect(game.id).not.toBe(id);
    const friend = await newAccount(`Friend ${accounts}`);
    const asker = { account: friend, links: [] };
    await give(owner, {
      scope: { of: 'all' },
      to: friend.name,
      right: 'read',
      until: null,
    });
    expect(await admit(asker, game.id)).toMatchObject({ right: 'read' });
    expect(await admit(asker, id)).toBeNull();
    await give(owner, {
      scope: { of: 'game', id },
      to: friend.name,
      right: 'edit',
      until: null,
    });
    expect(await admit(asker, id)).toMatchObject({ right: 'edit' });
    const names: string[] = [];
    const archive = Buffer.concat(await archiveOf(owner).toArray());
    for (const name of ['chess.pgn', 'preparation-chess.pgn', 'preparation-shogi.kifu'])
      if (archive.includes(name)) names.push(name);
    expect(names).toHaveLength(3);
  });

  it('is edited like a game, and found as it is then', async () => {
    const { id } = await sheetOf('chess', ['e2e4', 'e7e5']);
    const game = (await findGame(owner, id))!;
    expect(game.preparedFor).toBe(0);
    const saved = await saveSteps(owner, id, game.version, [{ type: 'remove', node: 2 }]);
    expect(saved).toMatchObject({ saved: true });
    expect(await ask(listSheets, { query: 'kind=chess&side=first' })).toMatchObject([
      200,
      [{ id, lines: 1, moves: 1 }],
    ]);
  });

  it('is taken away and brought back', async () => {
    const { id } = await sheetOf('chess', ['e2e4']);
    const game = await createGame(owner, record('chess', ['d2d4']));
    expect(await ask(removeSheet, { id: game.id, method: 'DELETE' })).toEqual([404, 'missing']);
    expect(await ask(removeSheet, { id, method: 'DELETE' })).toEqual([204, null]);
    expect(await ask(removeSheet, { id, method: 'DELETE' })).toEqual([404, 'missing']);
    expect(await ask(listSheets, { query: 'kind=chess&side=first' })).toEqual([200, []]);
    expect(await ask(restoreSheet, { id, method: 'PUT' })).toEqual([204, null]);
    expect(await ask(restoreSheet, { id, method: 'PUT' })).toEqual([404, 'missing']);
    expect(await ask(listSheets, { query: 'kind=chess&side=first' })).toMatchObject([
      200,
      [{ id }],
    ]);
  });

  it('tells which of its own moves a sweep doubts, in the game and beside it, the worst first', async () => {
    const { id } = await sheetOf('chess', ['e2e4', 'e7e5', 'g1f3']);
    await sheetOf('chess', ['e2e4', 'e7e5', 'g2g4']);
    const { tree } = (await findGame(owner, id))!.record;
    const other = nodeOf(tree, 2).children[1]!;
    const review = (ply: number, side: 0 | 1, verdict: string, loss: number) => ({
      ...{ ply, side, verdict, loss, best: 50, played: 50 - loss, rank: 2, linesKnown: 2 },
      ...{ playedScore: cpScore(0), bestScore: cpScore(0) },
      ...{ othersHold: 0, seen: null, isTurningPoint: false, isChoice: true, phase: 'opening' },
      ...{ spent: null, walksIntoMate: false, betterLine: ['d2d4'], refutation: [], depth: 9 },
      isUnsettled: false,
    });
    const side = { value: null, error: null, moves: 0, meanLoss: null };
    const findings = {
      line: ['e2e4', 'e7e5', 'g1f3'],
      findings: {
        moves: [null, review(2, 1, 'blunder', 40), review(3, 0, 'inaccuracy', 7)],
        course: [null, null, null, null],
        accuracy: [side, side],
      },
      variations: [[other, review(3, 0, 'blunder', 30)]],
    };
    const sweep = (await startSweep(owner, id, { average: { nodes: 1000 } }))!;
    await recordAsk(sweep.id, {
      ...{ state: 'done', version: 'one', rules: REVIEW_RULES },
      findings: findings as unknown as SweepFindings,
    });
    const [status, doubts] = await ask(listDoubts, { query: 'kind=chess&side=first' });
    expect([status, doubts]).toMatchObject([
      200,
      [
        { at: { sheet: id, node: other }, move: 'g2g4', verdict: 'blunder', better: ['d2d4'] },
        { at: { sheet: id, node: 3 }, move: 'g1f3', verdict: 'inaccuracy' },
      ],
    ]);
    expect(await ask(listSheets, { query: 'kind=chess&side=first' })).toMatchObject([
      200,
      [{ swept: 'done' }],
    ]);
  });

  it('refuses what can’t be put into it, and says why', async () => {
    const { id } = await sheetOf('chess', ['e2e4']);
    const first = 'kind=chess&side=first';
    const lines = toJson(record('chess', ['d2d4']));
    const refused = async (query: string, body: object) =>
      ask(prepareLines, { query, body: { lines, ...body } });
    expect(await refused('kind=shogi&side=first', {})).toEqual([422, 'unfit']);
    expect(await refused('kind=chess&side=third', {})).toEqual([400, 'malformed']);
    expect(await refused(first, { sheet: 999_999 })).toEqual([404, 'missing']);
    expect(await refused(first, { name: '' })).toEqual([400, 'malformed']);
    expect(await refused(first, { name: 'x'.repeat(61) })).toEqual([400, 'malformed']);
    const setUp = { ...lines, start: '4k3/8/8/8/8/8/3P4/4K3 w - - 0 1' };
    expect(await refused(first, { lines: setUp, sheet: id })).toEqual([422, 'unfit']);
    expect(await refused(first, { lines: setUp })).toMatchObject([201, { added: 1 }]);
    const illegal = { ...lines, nodes: [lines.nodes[0], { id: 1, parent: 0, move: 'e2e5' }] };
    expect(await refused(first, { lines: illegal })).toEqual([400, 'malformed']);
    for (const wrong of [
      { games: 0, share: 50, plies: 10 },
      { games: 1, share: 101, plies: 10 },
      { games: 1, share: 50, plies: 61 },
      { games: 1, share: 50, plies: 1 },
    ])
      expect(await ask(prepareFromGames, { query: first, body: wrong })).toEqual([
        400,
        'malformed',
      ]);
    for (const wrong of ['base=999999', 'base=x', 'base=1&rating=..', 'base=1&rating=15000..'])
      expect([wrong, await ask(showPreparation, { query: `${first}&${wrong}` })]).toEqual([
        wrong,
        wrong === 'base=999999' ? [404, 'missing'] : [400, 'malformed'],
      ]);
    for (const wrong of [
      '',
      'games=',
      'games=1,x',
      `games=${'1,'.repeat(100)}1`,
      'games=1&bases=x',
    ])
      expect([wrong, await ask(listLeft, { query: wrong })]).toEqual([wrong, [400, 'malformed']]);
    expect(await ask(listDoubts, { query: first })).toEqual([200, []]);
  });

  it('has so many sheets, of so many moves each', async () => {
    const which = { owner, kind: 'chess', side: 0 } as const;
    /** A few long walks of a knight, each from another first move of White's. */
    const walks = (...firsts: string[]) =>
      joinedLines(
        firsts.map((first) => {
          const round = ['g8f6', 'g1f3', 'f6g8', 'f3g1'];
          const codes = [first, ...Array.from({ length: 11_000 }, (_, ply) => round[ply % 4]!)];
          return lineTree(
            'chess',
            chess.startText,
            codes.map((code) => chess.parseCode(code)!),
          );
        }) as [GameTree, ...GameTree[]],
      )!;
    const first = await put(which, walks('a2a3', 'b2b3', 'c2c3'));
    expect(first).toMatchObject({ added: 33_003 });
    expect(await put(which, walks('a2a4', 'b2b4'))).toBe('full');
    // nothing of it has come in
    expect(await ask(listSheets, { query: 'kind=chess&side=first' })).toMatchObject([
      200,
      [{ moves: 33_003 }],
    ]);
    for (let sheets = 1; sheets < 100; sheets++)
      expect(await put(which, lineTree('chess', chess.startText, []), { name: 'x' })).toMatchObject(
        {
          added: 0,
        },
      );
    expect(await put(which, lineTree('chess', chess.startText, []), { name: 'x' })).toBe('tooMany');
    const body = { lines: toJson(record('chess', [])), name: 'One more' };
    expect(await ask(prepareLines, { query: 'kind=chess&side=first', body })).toEqual([
      429,
      'tooMany',
    ]);
  });

  it('is found by nobody else', async () => {
    const { id } = await sheetOf('chess', ['e2e4']);
    const theirs = await play('chess', ['e2e4']);
    const name = `Stranger ${accounts}`;
    const stranger = await newAccount(name);
    cookie = await cookieOf(name);
    expect(await findOwner(stranger.id)).not.toBeNull();
    expect(await ask(listSheets, { query: 'kind=chess&side=first' })).toEqual([200, []]);
    expect(await ask(checkGames, { query: 'kind=chess&side=first' })).toEqual([200, []]);
    expect(await ask(listLeft, { query: `games=${theirs}` })).toEqual([200, []]);
    expect(await ask(listPartings, { id: theirs })).toEqual([404, 'missing']);
    expect(await ask(removeSheet, { id, method: 'DELETE' })).toEqual([404, 'missing']);
    expect(await ask(restoreSheet, { id, method: 'PUT' })).toEqual([404, 'missing']);
    const lines = toJson(record('chess', ['d2d4']));
    const body = { lines, sheet: id };
    expect(await ask(prepareLines, { query: 'kind=chess&side=first', body })).toEqual([
      404,
      'missing',
    ]);
  });
});
