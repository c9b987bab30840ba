import { describe, expect, it } from 'vitest';
import { readGames } from '../notation/formats';
import { isRead } from '../notation/reading';
import { timesAlong } from './clock';
import { gameInfo } from './info';
import { mainLine } from './tree';
import { readTimeControl, writeCsaTimeControl, writeJapaneseTimeControl } from './time-control';

describe('time controls', () => {
  it.each([
    ['40/7200:3600', [40, 7200, 0, null, 3600, 0], 0],
    ['40/5400+30:1800+30', [40, 5400, 30, null, 1800, 30], 0],
    ['900+10', [null, 900, 10], 0],
    ['300', [null, 300, 0], 0],
    ['00:25+30', [null, 1500, 0], 30],
    ['1500+30+0', [null, 1500, 0], 30],
    ['600+0+10', [null, 600, 10], 0],
    ['各10分', [null, 600, 0], 0],
    ['各３０分', [null, 1800, 0], 0],
    ['1時間+60秒', [null, 3600, 0], 60],
    ['30分 秒読み30秒', [null, 1800, 0], 30],
    ['10分 加算5秒', [null, 600, 5], 0],
  ])('%s', (text, stages, byoyomi) => {
    const control = readTimeControl(text)!;
    expect(
      control.stages.flatMap(({ moves, base, increment }) => [moves, base, increment]),
    ).toEqual(stages);
    expect(control.byoyomi).toBe(byoyomi);
  });
  it('an hourglass', () => {
    expect(readTimeControl('*180')).toMatchObject({ hourglass: true, stages: [{ base: 180 }] });
  });
  it.each(['?', '-', '', 'no limit', '10/'])('%j is none', (text) => {
    expect(readTimeControl(text)).toBeNull();
  });
  it('are written so that they are read again', () => {
    for (const text of ['00:25+30', '600+0+10', '1500+0+0', '各10分', '1時間+60秒']) {
      const control = readTimeControl(text)!;
      expect(readTimeControl(writeJapaneseTimeControl(control))).toEqual(control);
      expect(readTimeControl(writeCsaTimeControl(control))).toEqual(control);
    }
  });
});

function timesOf(text: string, format: 'pgn' | 'kif') {
  const [reading] = [...readGames(text, format)];
  if (!reading || !isRead(reading)) throw new Error('not read');
  const { record } = reading;
  return timesAlong(mainLine(record.tree), 0, gameInfo(record).timeControl);
}

describe('time spent and left', () => {
  it('spent is worked out from the clocks', () => {
    const times = timesOf(
      '[TimeControl "900+10"]\n\n1. e4 {[%clk 0:15:05]} e5 {[%clk 0:14:40]} 2. d4 {[%clk 0:14:55]} *',
      'pgn',
    );
    expect(times.map(({ spent }) => spent)).toEqual([5000, 30_000, 20_000]);
  });
  it('is nothing where the clock did not move, and not known where it gained', () => {
    const times = timesOf(
      '[TimeControl "60"]\n\n1. e4 {[%clk 0:01:00]} e5 {[%clk 0:01:01]} *',
      'pgn',
    );
    expect(times.map(({ spent }) => spent)).toEqual([0, null]);
  });
  it('left is worked out from the time spent', () => {
    const times = timesOf(
      '持ち時間：1分+30秒\n   1 ７六歩(77)   ( 0:16/00:00:16)\n   2 ３四歩(33)   ( 0:05/00:00:05)\n   3 ２六歩(27)   ( 0:50/00:01:06)\n   4 ８四歩(83)   ( 0:05/00:00:10)\n   5 ２五歩(26)   ( 0:20/00:01:26)\n',
      'kif',
    );
    expect(times.map(({ left }) => left)).toEqual([44_000, 55_000, 0, 50_000, 0]);
    // 50 seconds where 44 were left, then 20 of the byoyomi's 30
    expect(times.map(({ byoyomiLeft }) => byoyomiLeft)).toEqual([null, null, 24_000, null, 10_000]);
  });
  it('byoyomi is whole where the main time was just enough, and never less than nothing', () => {
    const times = timesOf(
      '持ち時間：1分+30秒\n   1 ７六歩(77)   ( 1:00/00:01:00)\n   2 ３四歩(33)   ( 2:00/00:02:00)\n',
      'kif',
    );
    expect(times.map(({ byoyomiLeft }) => byoyomiLeft)).toEqual([30_000, 0]);
  });
  it('a second stage adds its time', () => {
    const moves = ['e4', 'e5', 'd4', 'd5', 'c4', 'c5'];
    const text = moves.map((move) => `${move} {[%emt 0:00:10]}`).join(' ');
    const times = timesOf(`[TimeControl "2/100:50"]\n\n${text} *`, 'pgn');
    expect(times.map(({ left }) => left)).toEqual(
      [90, 90, 130, 130, 120, 120].map((s) => s * 1000),
    );
  });
  it('nothing is made up where nothing is known', () => {
    expect(timesOf('1. e4 e5 *', 'pgn')).toEqual([
      { spent: null, left: null, byoyomiLeft: null },
      { spent: null, left: null, byoyomiLeft: null },
    ]);
  });
});
