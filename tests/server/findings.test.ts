import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { mainQuestion, pricingQuestion } from '@/core/ask/evaluate';
import { questionText, type Ask } from '@/core/ask/question';
import { sweptPositions } from '@/core/ask/swept';
import { cpScore } from '@/core/game/score';
import { findingsOfSweep, REVIEW_RULES, type SweepFindings } from '@/core/review/findings';
import { figuresOf } from '@/core/review/game-figures';
import { NO_FINDINGS, type MoveReview } from '@/core/review/review';
import { cancelAsk, countFailure, openAsk, recordAsk, removeAsk } from '@/server/asks';
import { closeDatabase, database, migrateDatabase } from '@/server/database';
import { historyText, KnownEvaluations, positionKey, storeEvaluation } from '@/server/evaluations';
import { completed, findingsOf, reckonAnew, reviewOf } from '@/server/findings';
import { measuredSpeed } from '@/server/speed';
import { listGames } from '@/server/library';
import { createGame, findGame, type StoredGame } from '@/server/games';
import { demoOwner, type Owner } from '@/server/owner';
import { asks } from '@/server/schema';
import { setBeside, startSweep } from '@/server/sweeps';
import { thinkingStop } from '@/server/thinking';
import { useOwnDatabase } from '../support/database';
import { mainLineOf } from '../support/lines';

const SETTINGS = { depth: 6, lines: 1 } as const;

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('findings of a sweep', () => {
  let owner: Owner;
  let game: StoredGame;
  let id: number;
  beforeAll(async () => {
    await useOwnDatabase('findings_test');
    await migrateDatabase();
    owner = await demoOwner();
  });
  afterAll(closeDatabase);

  /** A game with a sweep under way, two of whose four positions have been looked at. */
  beforeEach(async () => {
    const created = await createGame(owner, mainLineOf('chess', ['e2e4', 'e7e5', 'g1f3']), true);
    game = (await findGame(owner, created.id))!;
    id = (await startSweep(owner, game.id, SETTINGS))!.id;
    await recordAsk(id, { state: 'running', version: 'one' });
    await look(0, 'e2e4', 20);
    await look(1, 'e7e5', 30);
  });

  async function look(ply: number, best: string, cp: number): Promise<void> {
    const position = sweptPositions(game.record)[ply]!;
    const settings = questionText(mainQuestion('chess', position.root, SETTINGS));
    const key = {
      kind: 'chess',
      ...positionKey('chess', position),
      engine: 'one',
      settings,
    } as const;
    const lines = [{ score: cpScore(cp), moves: [best] }];
    await storeEvaluation({ ...key, onlyMove: '' }, { depth: 6, nodes: 5, milliseconds: 1, lines });
  }
  const stored = async () => (await database().select().from(asks).where(eq(asks.id, id)))[0]!;
  const expected = async () => {
    const known = await KnownEvaluations.load(game.record, 'one');
    return findingsOfSweep(game.record, await known.found(SETTINGS));
  };
  const done = async (sweep: number) =>
    completed(game, sweep, await (await KnownEvaluations.load(game.record, 'one')).found(SETTINGS));
  const wrong: SweepFindings = { line: ['e2e4'], findings: NO_FINDINGS, variations: [] };

  it('are kept with the game once they are complete, as the latest sweep has them', async () => {
    const listed = async () =>
      (await listGames(owner, {}, { count: 200 })).find((one) => one.id === game.id)!;
    expect(await listed()).toMatchObject({ figures: null, trend: null, depth: null });
    await recordAsk(id, { state: 'done', rules: REVIEW_RULES, findings: wrong });
    expect((await listed()).figures![0]).toMatchObject({ accuracy: null, moves: 0 });
    const found = await (await KnownEvaluations.load(game.record, 'one')).found(SETTINGS);
    const next = (await startSweep(owner, game.id, SETTINGS))!.id;
    await recordAsk(next, { state: 'done', ...(await completed(game, next, found)) });
    const { sides, ...whole } = figuresOf((await expected()).findings);
    const near = (figures: object) =>
      Object.fromEntries(
        Object.entries(figures).map(([name, value]: [string, unknown]) => [
          name,
          // as they are stored
          typeof value === 'number' ? (expect.closeTo(value, 3) as unknown) : value,
        ]),
      );
    expect(await listed()).toMatchObject({ ...near(whole), figures: sides.map(near) });
    // what is reckoned later of an earlier one changes nothing
    await database().update(asks).set({ rules: 0 }).where(eq(asks.id, id));
    await reckonAnew();
    expect(await listed()).toMatchObject({ ...near(whole), figures: sides.map(near) });
  });

  it('tell how fast engines have been, by the game', async () => {
    const { nodesPerSecond, engines } = await measuredSpeed('chess');
    // five nodes a millisecond, and each engine as fast
    expect(nodesPerSecond).toBeCloseTo(5000 * engines, -2);
    expect((await measuredSpeed('shogi')).nodesPerSecond).toBeNull();
  });

  it('under way are reckoned from what is there, and not kept', async () => {
    expect((await findingsOf(owner, game))!.findings).toEqual(await expected());
    expect((await stored()).findings).toBeNull();
    const { shown } = await reviewOf(owner, game);
    expect(shown).toMatchObject({ findings: null, line: ['e2e4', 'e7e5', 'g1f3'] });
    expect(shown!.evaluations.map(([ply]) => ply)).toEqual([0, 1]);
  });

  it('that are kept are read as they are', async () => {
    await recordAsk(id, { state: 'done', findings: wrong, rules: REVIEW_RULES });
    expect((await findingsOf(owner, game))!.findings).toEqual(wrong);
    expect((await reviewOf(owner, game)).shown!.findings).toEqual(wrong);
    expect(await reckonAnew()).toBe(0);
  });

  it.each([REVIEW_RULES - 1, REVIEW_RULES + 1, null])(
    'that other rules (%s) have reckoned are reckoned anew, and kept',
    async (rules) => {
      await recordAsk(id, { state: 'done', findings: wrong, rules });
      expect((await reviewOf(owner, game)).shown!.findings).toBeNull();
      expect((await findingsOf(owner, game))!.findings).toEqual(await expected());
      expect(await stored()).toMatchObject({ rules: REVIEW_RULES, findings: await expected() });
      await database().update(asks).set({ findings: wrong, rules }).where(eq(asks.id, id));
      expect(await reckonAnew()).toBe(1);
      expect(await stored()).toMatchObject({ rules: REVIEW_RULES, findings: await expected() });
    },
  );

  it('that are complete leave standing what was found before, and are set beside it', async () => {
    await recordAsk(id, { state: 'done', ...(await done(id)) });
    const before = (await stored()).findings!;
    // a sweep of the second move alone, which finds something else
    const next = (await startSweep(owner, game.id, {
      average: { nodes: 1000 },
      moves: { from: 2, to: 2 },
    }))!.id;
    await recordAsk(next, { state: 'running', version: 'two' });
    const found = await (
      await KnownEvaluations.load(game.record, 'two')
    ).found({ average: { nodes: 1000 }, moves: { from: 2, to: 2 } });
    await recordAsk(next, { state: 'done', ...(await completed(game, next, found)) });
    const { shown } = await reviewOf(owner, game);
    expect(shown!.sweep.id).toBe(next);
    expect(shown!.findings).toEqual(before);
    expect(shown!.comparison).toEqual({ settings: 'depth 6 lines 1', changes: [] });
    // what it says otherwise is told
    const [first, ...others] = before.findings.moves;
    const other = { ...first!, verdict: 'blunder', loss: 40 } as MoveReview;
    const findings = { ...before.findings, moves: [other, ...others] };
    await database()
      .update(asks)
      .set({ findings: { ...before, findings } })
      .where(eq(asks.id, next));
    expect((await reviewOf(owner, game)).shown!.comparison!.changes).toEqual([
      {
        ply: 1,
        before: { verdict: 'none', loss: first!.loss },
        now: { verdict: 'blunder', loss: 40 },
      },
    ]);
    // it gives way, and comes back
    const stranger = { id: '00000000-0000-4000-8000-00000000dead' };
    expect(await setBeside(stranger, game.id, false)).toBe(false);
    expect(await setBeside(owner, game.id, false)).toBe(true);
    expect((await reviewOf(owner, game)).shown!.comparison).toBeNull();
    await setBeside(owner, game.id, true);
    expect((await reviewOf(owner, game)).shown!.comparison).not.toBeNull();
    // reckoned anew, the earlier one first, they say the same
    await database()
      .update(asks)
      .set({ rules: REVIEW_RULES - 1 })
      .where(eq(asks.gameId, game.id));
    expect(await reckonAnew()).toBe(2);
    expect((await reviewOf(owner, game)).shown!.findings).toEqual(before);
  });

  it('are sent without what a page has already', async () => {
    const has = { sweep: id, isComplete: false, answers: '1000' };
    const some = await reviewOf(owner, game, has);
    expect(some.shown!.evaluations.map(([ply]) => ply)).toEqual([1]);
    const other = await reviewOf(owner, game, { ...has, sweep: id + 1000 });
    expect(other.shown!.evaluations.map(([ply]) => ply)).toEqual([0, 1]);
    await recordAsk(id, { state: 'done', findings: wrong, rules: REVIEW_RULES });
    const all = await reviewOf(owner, game, { ...has, isComplete: true });
    expect(all.shown).toMatchObject({ findings: null, evaluations: [], sweep: { state: 'done' } });
  });

  it('lead to a stop by all the moves before it, and by none where there is no such stop', async () => {
    const level = { kind: 'cp', cp: 0 } as const;
    const scores = { bestScore: level, playedScore: level, spent: null, depth: 9 };
    const turning = { side: 1, ply: 2, isTurningPoint: true, ...scores } as MoveReview;
    const findings = { ...NO_FINDINGS, moves: [null, turning, null] };
    const line = ['e2e4', 'e7e5', 'g1f3'];
    await recordAsk(id, {
      state: 'done',
      findings: { line, findings, variations: [] },
      rules: REVIEW_RULES,
    });
    expect(await thinkingStop(owner, game.id, null, 1)).toMatchObject({
      count: 1,
      moves: ['e2e4'],
    });
    expect(await thinkingStop(owner, game.id, null, 2)).toMatchObject({ count: 1, moves: [] });
    expect(await thinkingStop(owner, game.id, 0, 1)).toMatchObject({ count: 0, moves: [] });
  });

  it('are no business of others', async () => {
    const stranger = { ...owner, id: '00000000-0000-4000-8000-00000000ffff' };
    expect(await findingsOf(stranger, game)).toBeNull();
    expect(await reviewOf(stranger, game)).toEqual({ sweep: null, shown: null });
    expect(await cancelAsk(stranger, 'sweep', id)).toBe(false);
    expect(await removeAsk(stranger, 'sweep', id)).toBe(false);
    expect(await stored()).toMatchObject({ state: 'running' });
  });

  it('are asked for once: what is no longer open takes no more', async () => {
    expect((await openAsk('sweep', id))!.ask.id).toBe(id);
    // an id of another plan is another ask
    expect(await openAsk('study', id)).toBeNull();
    expect(await cancelAsk(owner, 'study', id)).toBe(false);
    expect(await countFailure(id)).toBe(1);
    expect(await countFailure(id)).toBe(2);
    // what gets on begins to count anew
    expect(await recordAsk(id, { done: 1 })).toBe(true);
    expect(await countFailure(id)).toBe(1);
    // taken up again, what was known is told once more: that is no progress
    expect(await recordAsk(id, { state: 'running' })).toBe(true);
    expect(await recordAsk(id, { done: 1 })).toBe(true);
    expect(await countFailure(id)).toBe(2);
    expect(await recordAsk(id, { done: 2 })).toBe(true);
    expect(await countFailure(id)).toBe(1);
    expect(await cancelAsk(owner, 'sweep', id)).toBe(true);
    expect(await cancelAsk(owner, 'sweep', id)).toBe(false);
    expect(await openAsk('sweep', id)).toBeNull();
    expect(await recordAsk(id, { done: 3 })).toBe(false);
    expect(await stored()).toMatchObject({ state: 'cancelled', done: 2 });
  });

  it('of a position near the fifty-move rule, or about to repeat, are those of its history alone', () => {
    const root = { position: 'p', moveCount: 0, repeated: [] };
    expect(historyText(root)).toBe('');
    expect(historyText({ ...root, moveCount: 80 })).toBe('count 80');
    const repeated = [
      { position: 'q', checker: null },
      { position: 'r', checker: 1 as const },
    ];
    expect(historyText({ ...root, moveCount: 81, repeated })).toBe('count 81; q -; r 1');
  });

  it('come from what is known where that is known, else from an engine, once', async () => {
    const known = await KnownEvaluations.load(game.record, 'one');
    const asked: (string | undefined)[] = [];
    const ask: Ask = ({ root, only }) => {
      asked.push(only?.[0]);
      expect(root.position).toContain('4P3');
      const lines = [{ score: cpScore(0), moves: [only?.[0] ?? 'g8f6'] }];
      return Promise.resolve({ depth: 6, nodes: 7, milliseconds: 2, lines });
    };
    const [, second, third] = sweptPositions(game.record);
    const remembering = known.remember(ask);
    const main = (at: typeof second) => mainQuestion('chess', at!.root, SETTINGS);
    const price = pricingQuestion('chess', third!.root, 'g1f3', { depth: 6, nodes: 7 });
    // known: nothing is asked
    expect((await remembering(main(second))).lines[0]!.moves).toEqual(['e7e5']);
    expect(asked).toEqual([]);
    // a price is another question, and so is another position; the same is asked once, also at the same time
    await Promise.all([remembering(main(third)), remembering(main(third))]);
    await remembering(price);
    await remembering(price);
    // and so are other limits
    await remembering({ ...main(third), budget: { nodes: 9 } });
    expect(asked).toEqual([undefined, 'g1f3', undefined]);
    // two moves to choose from are another question than one of them, and a plain search is another one again
    const two = { ...price, only: ['g1f3', 'h2h3'] };
    const plain = { ...price, plain: true };
    for (const question of [two, two, plain, plain]) await remembering(question);
    expect(asked.splice(3)).toEqual(['g1f3', 'g1f3']);
    const again = await KnownEvaluations.load(game.record, 'one');
    const found = (await again.found(SETTINGS)).evaluations();
    expect(found).toEqual((await known.found(SETTINGS)).evaluations());
    expect(found.map((one) => one?.answers ?? null)).toEqual([1, 1, 2, null]);
    expect(found[2]!.played!.moves).toEqual(['g1f3']);
    // another engine, or other settings, knows nothing of it
    for (const [engine, settings] of [
      ['two', SETTINGS],
      ['one', { ...SETTINGS, depth: 7 }],
      ['one', { average: { nodes: 1000 } }],
    ] as const) {
      const other = await KnownEvaluations.load(game.record, engine);
      expect((await other.found(settings)).evaluations()).toEqual([null, null, null, null]);
    }
  });
});
