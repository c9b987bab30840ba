import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readGames } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { statedFigures } from '@/core/review/stated';
import { storeBaseGames, lockBase } from '@/server/base-games';
import { makeBase } from '@/server/bases';
import { closeDatabase, database, migrateDatabase } from '@/server/database';
import { give } from '@/server/grants';
import type { Owner } from '@/server/owner';
import { peersOf } from '@/server/peers';
import { prepareBaseGame } from '@/server/prepared-base-game';
import { baseGames } from '@/server/schema';
import { newAccount } from '../support/accounts';
import { useOwnDatabase } from '../support/database';

/** A game of two ratings, with evaluations in pawns after each move, where they are told. */
const game = (ratings: readonly [number, number], pawns: readonly number[] | null) => {
  const moves = ['1. e4', 'e5', '2. Nf3', 'Nc6'];
  const tags = `[White "W"]\n[Black "B"]\n[Round "${ratings.join()}"]\n[WhiteElo "${ratings[0]}"]\n[BlackElo "${ratings[1]}"]\n\n`;
  const text = moves
    .map((move, index) => (pawns ? `${move} {[%eval ${pawns[index]!.toFixed(2)},9]}` : move))
    .join(' ');
  const [reading] = [...readGames(`${tags}${text} *`, 'pgn')];
  if (!reading || !isRead(reading)) throw new Error('not read');
  return reading.record;
};

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('players rated alike', () => {
  let owner: Owner;
  let base: number;
  const between = (from: number, to: number) => ({ from, to });
  const level = game([1500, 1600], [0, 0, 0, 0]);
  const sharp = game([1601, 1499], [0.3, 1.3, -0.4, 1.2]);

  beforeAll(async () => {
    await useOwnDatabase('peers_test');
    await migrateDatabase();
    owner = await newAccount('Peer');
    const made = await makeBase(owner, { name: 'Rated', kind: 'chess', source: { from: 'files' } });
    if (typeof made === 'string') throw new Error(made);
    base = made.id;
    const games = [level, sharp, game([1550, 1550], null)];
    await database().transaction(async (tx) => {
      await storeBaseGames(
        tx,
        (await lockBase(tx, base))!,
        games.map((record) => prepareBaseGame(record)),
      );
    });
  });
  afterAll(closeDatabase);

  it('are those within the span, in games whose file states evaluations', async () => {
    const [of1, of2] = [level, sharp].map((record) => statedFigures(record)!.sides);
    const [found] = await peersOf(owner, 'chess', between(1500, 1600));
    expect(found).toMatchObject({ base: { id: base, name: 'Rated' }, depth: 9 });
    expect(found!.accuracies).toEqual([100, 100]);
    const [wider] = await peersOf(owner, 'chess', between(1499, 1601));
    expect(wider!.accuracies).toHaveLength(4);
    const accuracies = [...of1!, ...of2!].map(({ accuracy }) => accuracy!);
    accuracies
      .sort((a, b) => a - b)
      .forEach((accuracy, index) =>
        expect(wider!.accuracies.toSorted((a, b) => a - b)[index]).toBeCloseTo(accuracy, 3),
      );
    expect(await peersOf(owner, 'chess', between(1602, 1700))).toEqual([]);
    expect(await peersOf(owner, 'shogi', between(1400, 1700))).toEqual([]);
  });

  it('are told to those who may ask the base', async () => {
    const reader = await newAccount('Reader');
    expect(await peersOf(reader, 'chess', between(1400, 1700))).toEqual([]);
    await give(owner, {
      scope: { of: 'base', id: base },
      to: 'Reader',
      right: 'read',
      until: null,
    });
    expect(await peersOf(reader, 'chess', between(1400, 1700))).toHaveLength(1);
  });

  it('leave no figures of a game that states none', async () => {
    const rows = await database().select().from(baseGames).where(eq(baseGames.baseId, base));
    expect(rows.map(({ firstFigures }) => firstFigures !== null)).toEqual([true, true, false]);
  });
});
