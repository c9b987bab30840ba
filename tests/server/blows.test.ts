import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { GameRecord } from '@/core/game/record';
import { sweepUnderBlows } from '@/cli/bench/blows';
import { randomSource } from '@/engine/draw';
import { closeDatabase, migrateDatabase } from '@/server/database';
import { demoOwner } from '@/server/owner';
import { useOwnDatabase } from '../support/database';
import { mainLineOf } from '../support/lines';

const SETTINGS = { average: { nodes: 400_000 } } as const;

/** Games with the same opening, so that workers come to the same positions at the same time. */
const GAMES: GameRecord[] = [
  ['chess', ['e2e4', 'e7e5', 'g1f3', 'b8c6', 'f1b5', 'a7a6', 'b5a4', 'g8f6', 'e1g1', 'f8e7']],
  ['chess', ['e2e4', 'e7e5', 'g1f3', 'b8c6', 'f1c4', 'f8c5', 'c2c3', 'g8f6', 'd2d3', 'd7d6']],
  ['chess', ['e2e4', 'e7e5', 'g1f3', 'b8c6', 'd2d4', 'e5d4', 'f3d4', 'g8f6', 'd4c6', 'b7c6']],
  ['shogi', ['7g7f', '3c3d', '2g2f', '4c4d', '3i4h', '8b4b', '5i6h', '5a6b']],
  ['shogi', ['7g7f', '3c3d', '2g2f', '8c8d', '2f2e', '8d8e', '6i7h', '4a3b']],
].map(([kind, moves]) => mainLineOf(kind as 'chess', moves as string[]));

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('many sweeps', { timeout: 180_000 }, () => {
  beforeAll(async () => {
    await useOwnDatabase('blows_test');
    await migrateDatabase();
  });
  afterAll(closeDatabase);

  it('end with one answer for each question, while workers are killed and one stands still', async () => {
    const kills = 4;
    const after = await sweepUnderBlows(await demoOwner(), GAMES, SETTINGS, {
      workers: 2,
      every: 2500,
      kills,
      // longer than it takes to be given up, so that what it held is freed, and it goes on to find its session gone
      freeze: 22_000,
      restartDatabase: null,
      random: randomSource(5),
      say: () => undefined,
    });
    expect(after).toMatchObject({ games: 5, done: 5, failed: 0, different: 0 });
    // a look at each of 37 positions, the search for a mate at the 14 of shogi, and more where there is a doubt
    expect(after.stored).toBeGreaterThan(37 + 14);
    // what a worker was storing when it was killed has taken a number, and so may what the frozen one had found
    expect(after.again).toBeLessThanOrEqual(kills + 1);
  });
});
