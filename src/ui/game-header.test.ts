import { describe, expect, it } from 'vitest';
import { readGames } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { applySteps } from '@/core/game/steps';
import { headerOf, headerSchema, headerSteps } from './game-header';

const record = (tags: string) => {
  const [reading] = [...readGames(`${tags}\n\n1. e4 e5 1-0\n`, 'pgn')];
  if (!reading || !isRead(reading)) throw new Error(JSON.stringify(reading));
  return reading.record;
};
const GAME = record(
  '[White "Mirela Tanase"]\n[WhiteElo "1833"]\n[Date "2026.03.??"]\n[UTCDate "2026.03.14"]\n[UTCTime "10:00:00"]\n[TimeControl "900+10"]',
);

describe('the header of a game', () => {
  it('is what would be typed', () => {
    expect(headerOf(GAME)).toEqual({
      first: 'Mirela Tanase',
      second: '',
      firstRating: '1833',
      secondRating: '',
      event: '',
      round: '',
      date: '2026-03-14',
      timeControl: '900+10',
      result: '1-0',
    });
    expect(headerSchema.safeParse(headerOf(GAME)).success).toBe(true);
  });
  it('left as it was changes nothing', () => {
    expect(headerSteps(GAME, headerOf(GAME))).toEqual([]);
  });
  it('changes only what was typed, and the date in all its forms', () => {
    const header = {
      ...headerOf(GAME),
      second: 'Jonas Brandt',
      date: '2025-12',
      result: '*',
    } as const;
    const changed = applySteps(GAME, headerSteps(GAME, header));
    expect(headerOf(changed)).toEqual(header);
    const names = changed.tags.map(({ name }) => name);
    expect(names).not.toContain('UTCDate');
    expect(names).not.toContain('UTCTime');
    expect(changed.tags).toContainEqual({ name: 'TimeControl', value: '900+10' });
  });
  it('emptied takes the tag away', () => {
    const changed = applySteps(GAME, headerSteps(GAME, { ...headerOf(GAME), first: '' }));
    expect(changed.tags.map(({ name }) => name)).not.toContain('White');
  });
});
