import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { gameInfo } from '@/core/game/info';
import type { GameRecord } from '@/core/game/record';
import { mainLine } from '@/core/game/tree';
import { readGames } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { rulesetOf } from '@/core/rulesets';
import { fingerprintOf } from '@/server/prepared-game';
import { BASES, baseFile, baseFormat } from './base-scenario';

const packed = (base: (typeof BASES)[number]): Buffer =>
  readFileSync(`demo/bases/${baseFile(base)}`);

describe.each(BASES)('the demo base $file', (base) => {
  const text = gunzipSync(packed(base)).toString();
  const readings = [...readGames(text, baseFormat(base))];
  const records = readings.filter(isRead).map(({ record }): GameRecord => record);

  it('has as many games as it says, each of them whole and another', () => {
    expect(readings).toHaveLength(base.games);
    expect(records).toHaveLength(base.games);
    expect(new Set(records.map((one) => fingerprintOf(one, gameInfo(one)))).size).toBe(base.games);
    expect(records.every(({ result }) => result !== '*')).toBe(true);
  });

  it('is of its own people, events, years and times, with the time of each move', () => {
    const names = new Set(base.players.map(({ name }) => name));
    for (const record of records) {
      const { players, event, date, timeControl } = gameInfo(record);
      for (const { name, rating } of players) {
        expect(names).toContain(name);
        expect(rating).toBeGreaterThan(800);
      }
      expect(players[0].name).not.toBe(players[1].name);
      expect(base.events.some((one) => event!.startsWith(one))).toBe(true);
      const year = Number(date!.slice(0, 4));
      expect(year).toBeGreaterThanOrEqual(base.years[0]);
      expect(year).toBeLessThanOrEqual(base.years[1]);
      expect(timeControl).not.toBeNull();
      expect(
        mainLine(record.tree).every(({ clock, spent }) => (clock ?? spent) !== undefined),
      ).toBe(true);
    }
  });

  it('has been gone over in good part', () => {
    const swept = records.filter(({ tree }) =>
      mainLine(tree).some(({ evaluation }) => evaluation !== undefined),
    );
    expect(swept.length / records.length).toBeGreaterThan(0.19);
  });

  it('comes to openings that have names', () => {
    const ruleset = rulesetOf(base.kind);
    const openings = records.map((one) =>
      ruleset.opening(
        ruleset.start(one.tree.start),
        mainLine(one.tree).map(({ move }) => move),
      ),
    );
    expect(openings.filter(Boolean).length / records.length).toBeGreaterThan(0.5);
    expect(new Set(openings.map((one) => one && JSON.stringify(one))).size).toBeGreaterThan(20);
  });
});

it('the demo bases are large enough, and small to ship', () => {
  const games = (kind: 'chess' | 'shogi'): number =>
    BASES.filter((base) => base.kind === kind).reduce((sum, base) => sum + base.games, 0);
  expect(games('chess')).toBeGreaterThanOrEqual(5000);
  expect(games('shogi')).toBeGreaterThanOrEqual(1500);
  expect(BASES.reduce((sum, base) => sum + packed(base).length, 0)).toBeLessThan(10e6);
  expect(BASES.every(({ name }) => name.endsWith('(made up)'))).toBe(true);
});
