import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Side } from '@/core/game/ruleset';
import { cpScore, mateScore } from '@/core/game/score';
import { readGames } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { REVIEW_RULES } from '@/core/review/findings';
import { NO_FINDINGS, type MoveReview } from '@/core/review/review';
import { buildEndings } from '@/engine/hosts/ending-build';
import { closeDatabase, database, migrateDatabase } from '@/server/database';
import { endingsFolder } from '@/server/endings';
import { insertGames } from '@/server/insert-games';
import { listOwnEndings } from '@/server/own-endings';
import { demoOwner, type Owner } from '@/server/owner';
import { prepareGame } from '@/server/prepared-game';
import { asks, endingSurveys, games, reachedEndings } from '@/server/schema';
import { surveyEndings } from '@/worker/ending-survey';
import { useOwnDatabase } from '../support/database';

const folder = mkdtempSync(join(tmpdir(), 'bektra-own-endings-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const PAWN_AND_ROOK = '8/8/8/8/3rk3/8/3PK3/3R4 w - - 0 1';
const PAWN = '8/8/4k3/8/4K3/8/4P3/8 w - - 0 1';

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('endings of one’s own games', () => {
  let owner: Owner;
  /** Stores a game of the owner's. */
  const gameOf = async (format: 'pgn' | 'kif', text: string, ownSide: Side): Promise<number> => {
    const [reading] = [...readGames(text, format)].filter(isRead);
    const [inserted] = await database().transaction((tx) =>
      insertGames(tx, owner, [prepareGame(reading!.record)], 'endings', true),
    );
    await database().update(games).set({ ownSide }).where(eq(games.id, inserted!.id));
    return inserted!.id;
  };
  const chessGame = (fen: string, moves: string, ownSide: Side) =>
    gameOf('pgn', `[SetUp "1"]\n[FEN "${fen}"]\n\n${moves}\n`, ownSide);
  const listed = async (game: number) =>
    (await listOwnEndings(owner))
      ?.filter(({ gameId }) => gameId === game)
      .map(({ name, worth, became }) => `${name}: ${worth} ${became}`);

  beforeAll(async () => {
    process.env.BEKTRA_DATA = folder;
    // without what ships with the app
    process.env.BEKTRA_ENDING_PIECES = '0';
    await useOwnDatabase('own_endings_test');
    await migrateDatabase();
    owner = await demoOwner();
    await database().delete(games);
  });
  afterAll(closeDatabase);

  it('are not known before anybody has looked, and none where none was reached', async () => {
    expect(await listOwnEndings(owner)).toBe(null);
    await surveyEndings();
    expect(await listOwnEndings(owner)).toEqual([]);
    const whole = await gameOf('pgn', '1. e4 e5 1-0\n', 0);
    await surveyEndings();
    expect(await listed(whole)).toEqual([]);
  });

  it('are known once there are tables of them', async () => {
    const pawn = await chessGame(PAWN, '1. Kd4 Kd6 1/2-1/2', 0);
    const rooks = await chessGame(PAWN_AND_ROOK, '1. Rc1 Rxd2+ 2. Kxd2 1-0', 1);
    await surveyEndings();
    expect(await listed(pawn)).toEqual(['KP K: null draw']);
    // nobody has a table of five men, nor yet one of three
    expect(await listed(rooks)).toEqual(['KR KRP: null null', 'K KR: null loss']);
    await buildEndings(
      { module: resolve('dist/engine/endings.wasm'), thread: resolve('dist/ending-thread.mjs') },
      {
        folder: endingsFolder(),
        pieces: 3,
        threads: 1,
        signal: new AbortController().signal,
        onProgress: () => undefined,
      },
    );
    await surveyEndings();
    expect(await listed(pawn)).toEqual(['KP K: win draw']);
    // what the exchange of rooks came to is known, as the capture leads to what is
    expect(await listed(rooks)).toEqual(['KR KRP: null loss', 'K KR: loss loss']);
  });

  it('are found where a game has changed, and gone with it', async () => {
    const game = await chessGame(PAWN, '1. Kd4 Kd6 1-0', 1);
    await surveyEndings();
    expect(await listed(game)).toEqual(['K KP: loss loss']);
    // nothing is looked through again without a reason
    await database().delete(reachedEndings).where(eq(reachedEndings.gameId, game));
    await surveyEndings();
    expect(await listed(game)).toEqual([]);
    await database().update(games).set({ result: '1/2-1/2' }).where(eq(games.id, game));
    await surveyEndings();
    expect(await listed(game)).toEqual(['K KP: loss draw']);
    await database().update(games).set({ deletedAt: new Date() }).where(eq(games.id, game));
    expect(await listed(game)).toEqual([]);
  });

  it('are listed of games that the owner played, with the way there', async () => {
    const game = await chessGame(PAWN, '1. e3 Kd6 1-0', 0);
    await database().update(games).set({ ownSide: null }).where(eq(games.id, game));
    await surveyEndings();
    expect(await listed(game)).toEqual([]);
    const rooks = await chessGame(PAWN_AND_ROOK, '1. Rc1 Rxd2+ 2. Kxd2 Ke5 1-0', 0);
    await surveyEndings();
    const [ending] = (await listOwnEndings(owner))!.filter(
      ({ gameId, name }) => gameId === rooks && name === 'KR K',
    );
    expect(ending).toMatchObject({
      ...{ kind: 'chess', side: 0, ply: 3, worth: 'win', became: 'win' },
      position: '8/8/8/8/4k3/8/3K4/2R5 b - - 0 2',
    });
    expect(ending!.node).toBeGreaterThan(0);
    // another account sees none of it
    expect(await listOwnEndings({ ...owner, id: crypto.randomUUID() })).toBe(null);
  });

  it('are mates of shogi, as a sweep found them', async () => {
    const game = await gameOf(
      'kif',
      '手合割：平手\n   1 ７六歩(77)\n   2 ３四歩(33)\n   3 ２六歩(27)\n   4 投了\n',
      0,
    );
    await surveyEndings();
    expect(await listed(game)).toEqual([]);
    const move = (ply: number, best: MoveReview['bestScore'], played: MoveReview['bestScore']) =>
      ({ ply, side: ((ply - 1) % 2) as Side, bestScore: best, playedScore: played }) as MoveReview;
    const findings = {
      ...NO_FINDINGS,
      moves: [
        move(1, mateScore(9, 0), cpScore(0)),
        move(2, mateScore(3, 1), mateScore(3, 1)),
        move(3, mateScore(2, 1), mateScore(2, 1)),
      ],
    };
    await database()
      .insert(asks)
      .values({
        ...{ ownerId: owner.id, gameId: game, plan: 'sweep', settings: '', state: 'done' },
        ...{ total: 1, rules: REVIEW_RULES },
        findings: { line: ['7g7f', '3c3d', '2g2f'], findings, variations: [] },
      });
    // as when the figures of a sweep are kept
    const figures = { firstFigures: [], secondFigures: [] };
    await database().update(games).set(figures).where(eq(games.id, game));
    await surveyEndings();
    expect(await listed(game)).toEqual(['9: win draw', '3: loss win']);
  });

  it('wait as long as games are being taken in', async () => {
    const game = await chessGame(PAWN, '1. Kf4 Kf6 1/2-1/2', 0);
    const { rows } = await database().execute<{ id: string }>(
      `insert into imports (owner_id, name, size, state) values ('${owner.id}', 'x', 1, 'running') returning id`,
    );
    await surveyEndings();
    expect(await listed(game)).toEqual([]);
    await database().execute(`delete from imports where id = ${rows[0]!.id}`);
    await surveyEndings();
    expect(await listed(game)).toEqual(['KP K: win draw']);
    expect(await database().$count(endingSurveys)).toBe(1);
  });
});
