import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { GAME_KINDS, type Side } from '@/core/game/ruleset';
import { cpScore, mateScore } from '@/core/game/score';
import { PROTOCOLS, readInfo, readScore, writeInfo, writeScore } from './protocol';

const side = fc.constantFrom<Side>(0, 1);

describe('scores from the view of the side to move', () => {
  it.each([
    ['chess', 0, cpScore(31), 'cp 31'],
    ['chess', 1, cpScore(31), 'cp -31'],
    ['chess', 0, mateScore(1, 0), 'mate 1'],
    ['chess', 0, mateScore(3, 0), 'mate 2'],
    ['chess', 1, mateScore(4, 0), 'mate -2'],
    ['shogi', 0, mateScore(3, 0), 'mate 3'],
    ['shogi', 1, mateScore(4, 0), 'mate -4'],
    ['shogi', 1, mateScore(5, 1), 'mate 5'],
    ['shogi', 1, cpScore(-7), 'cp 7'],
  ] as const)('%s, side %d: %j is %s', (kind, to, score, text) => {
    const protocol = PROTOCOLS[kind];
    expect(writeScore(protocol, score, to)).toBe(text);
    const [unit, value] = text.split(' ');
    expect(readScore(protocol, unit, Number(value), to)).toEqual(score);
  });

  it('are none in other units, or without a number', () => {
    expect(readScore(PROTOCOLS.chess, 'wdl', 3, 0)).toBeNull();
    expect(readScore(PROTOCOLS.chess, 'cp', NaN, 0)).toBeNull();
    expect(readScore(PROTOCOLS.chess, undefined, 1, 0)).toBeNull();
  });
});

describe.each(GAME_KINDS)('what an engine says of its lines in %s', (kind) => {
  const protocol = PROTOCOLS[kind];
  const answer = fc.record({
    depth: fc.integer({ min: 1, max: 99 }),
    selectiveDepth: fc.integer({ min: 1, max: 99 }),
    nodes: fc.integer({ min: 1, max: 1e9 }),
    milliseconds: fc.integer({ min: 1, max: 1e6 }),
    lines: fc.array(
      fc.record({
        score: fc.integer({ min: -3000, max: 3000 }).map((cp) => cpScore(cp === 0 ? 0 : cp)),
        moves: fc.array(fc.constantFrom('e2e4', '7g7f', 'P*5e'), { minLength: 1, maxLength: 4 }),
      }),
      { maxLength: 4 },
    ),
  });

  it('is read as it was written', () =>
    fc.assert(
      fc.property(answer, side, ({ lines, ...info }, to) => {
        const said = writeInfo(protocol, { ...info, lines }, to);
        expect(said.map((text) => readInfo(protocol, text, to))).toEqual(
          lines.map((line, index) => ({ index, line, info })),
        );
      }),
    ));

  it.each([
    'info string no line',
    'bestmove e2e4',
    'info depth 3 score cp 20',
    'info depth 3 pv e2e4',
    'info depth 3 score cp 20 pv',
    'info depth 9 score cp 31 lowerbound pv e2e4',
    'info depth 9 score cp 31 upperbound pv e2e4',
  ])('is nothing in: %s', (text) => expect(readInfo(protocol, text, 0)).toBeNull());

  it('tells its depth where it does not tell how far it looked', () => {
    const read = readInfo(protocol, 'info depth 7 score cp 1 pv e2e4', 0);
    expect(read).toMatchObject({ index: 0, info: { depth: 7, selectiveDepth: 7, nodes: 0 } });
  });
});
