import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { GAME_KINDS } from '../game/ruleset';
import { gameOf, type Features } from '../../../tests/support/games';
import type { GameRecord } from '../game/record';
import { fromJson, recordSchema, toJson } from '../game/serial';
import { nodesInOrder } from '../game/tree';
import { decodeText, encodeShiftJis } from './encoding';
import { readGames, writeGame, type Format } from './formats';
import { isRead } from './reading';

const ALL: Features = {
  variations: true,
  before: true,
  symbols: true,
  marks: true,
  clock: true,
  spent: 100,
  evaluation: true,
  lesson: true,
  extras: () => fc.constantFrom('[%note 5]', '[%eval nonsense]', '[%cal ZZ]'),
  breaks: true,
};
const SHOGI: Features = { ...ALL, before: false, clock: false, spent: 1000 };

/** The game without what ids and order of creation say: nodes by their place in the printed score. */
function shape(record: GameRecord) {
  const nodes = [...nodesInOrder(record.tree)];
  const place = new Map(nodes.map((node, index) => [node.id, index]));
  return {
    start: record.tree.start,
    tags: record.tags,
    result: record.result,
    nodes: nodes.map(({ id: _, parent, children, ...rest }) => ({
      ...rest,
      parent: parent === null ? null : place.get(parent),
      children: children.map((child) => place.get(child)),
    })),
  };
}

function readOne(text: string, format: Format): GameRecord {
  const readings = [...readGames(text, format)];
  expect(readings).toHaveLength(1);
  const [reading] = readings;
  if (!reading || !isRead(reading)) throw new Error(JSON.stringify(reading));
  return reading.record;
}

function survives(
  format: Format,
  kind: 'chess' | 'shogi',
  features: Features,
  tags: string[],
): void {
  fc.assert(
    fc.property(gameOf(kind, features, tags), (record) => {
      const text = writeGame(record, format);
      const read = readOne(text, format);
      expect(shape(read)).toEqual(shape(record));
      expect(writeGame(read, format)).toBe(text);
    }),
    { numRuns: 150 },
  );
}

describe('what is written is read back unchanged', () => {
  it('PGN', () => {
    survives('pgn', 'chess', ALL, ['Event', 'White', 'Black', 'WhiteElo', 'Board_Name']);
  });
  it('KIF', () => {
    const extras = () => fc.constantFrom('[%note 5]', '[%eval nonsense]');
    survives('kif', 'shogi', { ...SHOGI, extras }, ['Event', 'Black', 'White', '備考']);
  });
  it('KIF keeps notes and bookmarks', () => {
    const text = '手合割：平手\n#note\n   1 ７六歩(77)\n&here\n*words\n';
    const read = readOne(text, 'kif');
    const again = readOne(writeGame(read, 'kif'), 'kif');
    expect([...nodesInOrder(again.tree)].map(({ extras }) => extras)).toEqual([
      ['#note'],
      ['&here'],
    ]);
  });
  it('KI2, main line and comments', () => {
    const features = { ...SHOGI, variations: false, spent: null, extras: null };
    survives('ki2', 'shogi', features, ['Event', 'Black', 'White']);
  });
  it('CSA, main line', () => {
    const extras = () => fc.constantFrom("'plain remark", '[%note 5]');
    const features = { ...SHOGI, variations: false, extras: null };
    survives('csa', 'shogi', features, ['Black', 'White', 'Event', 'Site']);
    survives('csa', 'shogi', { ...features, evaluation: false, extras }, ['Black', 'White']);
  });
  it('the stored form', () => {
    for (const kind of GAME_KINDS)
      fc.assert(
        fc.property(gameOf(kind, ALL, ['Event']), (record) => {
          const json = recordSchema.parse(JSON.parse(JSON.stringify(toJson(record))));
          expect(shape(fromJson(json, { legality: 'checked' }))).toEqual(shape(record));
        }),
        { numRuns: 50 },
      );
  });
  it('PGN lines stay under 80 columns', () => {
    fc.assert(
      fc.property(gameOf('chess', ALL, ['Event']), (record) => {
        for (const line of writeGame(record, 'pgn').split('\n'))
          expect([...line].length).toBeLessThan(80);
      }),
      { numRuns: 50 },
    );
  });
  it('Shift_JIS', () => {
    const text = '手合割：平手\n先手：佐倉 結\n   1 ７六歩(77)   ( 0:16/00:00:16)\n*－と−\n';
    expect(decodeText(encodeShiftJis(text), 'shogi')).toBe(text.replace('\u2212', '\uff0d'));
  });
});
