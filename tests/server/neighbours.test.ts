import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { withTag } from '@/core/game/record';
import { closeDatabase, migrateDatabase } from '@/server/database';
import { createGame } from '@/server/games';
import { neighboursOf } from '@/server/neighbours';
import type { Owner } from '@/server/owner';
import { newAccount } from '../support/accounts';
import { useOwnDatabase } from '../support/database';
import { mainLineOf } from '../support/lines';

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('beside a game', () => {
  let owner: Owner;
  beforeAll(async () => {
    await useOwnDatabase('neighbours_test');
    await migrateDatabase();
    owner = await newAccount('Owner');
  });
  afterAll(closeDatabase);

  const play = async (event: string | null, date: string | null, white: string, black: string) => {
    let record = mainLineOf('chess', ['e2e4']);
    const tags = { Event: event, Date: date, White: white, Black: black };
    for (const [name, value] of Object.entries(tags))
      if (value !== null) record = { ...record, tags: withTag(record.tags, name, value) };
    return (await createGame(owner, record, true)).id;
  };

  it('are those of its event before and after it, and those of its players', async () => {
    const last = await play('Open', '2026.03.03', 'Mirela', 'Jonas');
    const first = await play('Open', null, 'Jonas', 'Mirela');
    const second = await play('Open', '2026.03.01', 'Mirela', 'Aino');
    const third = await play('Open', '2026.03.01', 'Jonas', 'Aino');
    const other = await play('Other', '2026.03.02', 'mirela', 'JONAS');
    const none = await play(null, '2026.03.02', 'Mirela', 'Jonas');
    const stranger = await newAccount('Stranger');
    await createGame(stranger, mainLineOf('chess', ['e2e4']));

    const around = async (id: number) => {
      const { previous, next, meetings } = await neighboursOf(owner, id);
      return [previous, next, meetings?.games];
    };
    expect(await around(first)).toEqual([null, second, 3]);
    expect(await around(second)).toEqual([first, third, 0]);
    expect(await around(third)).toEqual([second, last, 0]);
    expect(await around(last)).toEqual([third, null, 3]);
    expect(await around(other)).toEqual([null, null, 3]);
    expect(await around(none)).toEqual([null, null, 3]);
    const opened = async (id: number) => (await neighboursOf(owner, id)).opening;
    const text = "B00|King's Pawn Game|キングズ・ポーン・ゲーム";
    expect(await opened(first)).toEqual({ text, games: 5 });
    const nothing = { previous: null, next: null, meetings: null, opening: null };
    expect(await neighboursOf(stranger, last)).toEqual(nothing);
    const nameless = (await createGame(owner, mainLineOf('chess', ['d2d4']))).id;
    expect(await neighboursOf(owner, nameless)).toMatchObject({
      ...nothing,
      opening: { games: 0 },
    });
  });
});
