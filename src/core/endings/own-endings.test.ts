import { describe, expect, it } from 'vitest';
import { ownEndings, tallyOf, type StoredEnding } from './own-endings';

const ending = (ply: number, name: string, worth: number | null, more = {}): StoredEnding => ({
  ...{ ply, name, worth, isPassing: false, isLetGo: false },
  ...more,
});

describe('the endings of a game as a side had them', () => {
  const game = [ending(70, 'KRP KR', 1), ending(90, 'KP K', 0)];

  it('become what the next one was worth, and the last one what the game ended with', () => {
    expect(ownEndings(game, '1-0', 0)).toEqual([
      { ply: 70, name: 'KRP KR', worth: 'win', became: 'draw' },
      { ply: 90, name: 'KP K', worth: 'draw', became: 'win' },
    ]);
    expect(ownEndings(game, '1-0', 1)).toEqual([
      { ply: 70, name: 'KR KRP', worth: 'loss', became: 'draw' },
      { ply: 90, name: 'K KP', worth: 'draw', became: 'loss' },
    ]);
  });

  it('are not known where nobody knows them, or the game is not over', () => {
    const [unknown] = ownEndings([ending(3, 'KQR KQ', null)], '0-1', 0);
    expect(unknown).toMatchObject({ worth: null, became: 'loss' });
    const [open] = ownEndings([ending(3, 'KR K', 1)], '*', 0);
    expect(open).toMatchObject({ worth: 'win', became: null });
    const [before] = ownEndings([ending(3, 'KRP KR', 1), ending(9, 'KR KR', null)], '1-0', 0);
    expect(before).toMatchObject({ became: null });
  });

  it('are not those in the middle of an exchange, though these say what came of the one before', () => {
    const exchange = [ending(5, 'KRP KR', 1), ending(9, 'KR KR', 0, { isPassing: true })];
    expect(ownEndings(exchange, '1-0', 0)).toEqual([
      { ply: 5, name: 'KRP KR', worth: 'win', became: 'draw' },
    ]);
  });

  it('are mates too, which were given or let go, whatever came next', () => {
    const mates = [ending(80, '9', 1, { isLetGo: true }), ending(95, '3', -1)];
    expect(ownEndings(mates, '0-1', 0)).toEqual([
      { ply: 80, name: '9', worth: 'win', became: 'draw' },
      { ply: 95, name: '3', worth: 'loss', became: 'loss' },
    ]);
    expect(ownEndings(mates, '0-1', 1)).toMatchObject([
      { name: '9', worth: 'loss', became: 'draw' },
      { name: '3', worth: 'win', became: 'win' },
    ]);
  });
});

it('endings are counted by what they were worth, and kept where they came to at least as much', () => {
  const all = (['win', 'draw', 'loss'] as const).flatMap((worth) =>
    (['win', 'draw', 'loss'] as const).map((became) => ({ worth, became })),
  );
  expect(tallyOf(all)).toEqual({
    win: { of: 3, kept: 1 },
    draw: { of: 3, kept: 2 },
    loss: { of: 3, kept: 2 },
    unknown: 0,
  });
  expect(
    tallyOf([
      { worth: null, became: 'win' },
      { worth: 'win', became: null },
    ]),
  ).toMatchObject({ win: { of: 0, kept: 0 }, unknown: 2 });
});
