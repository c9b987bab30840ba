import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { GameRecord, Tag } from '../game/record';
import { nodeOf, ROOT, TreeBuilder } from '../game/tree';
import { rulesetOf } from '../rulesets';
import { formatKind, readGames, writeGame, type Format } from './formats';
import { isRead } from './reading';

const PIECES = [
  '}',
  '{',
  '[%clk 1:00:00]',
  '[%char 7D]',
  '[%lesson x]',
  '[%tag a b]',
  '[%result 1-0]',
  '[%',
  '[Event "x"]',
  '[',
  ']',
  '%',
  ';',
  '*',
  "'",
  '** 30',
  '#',
  '&',
  '変化：1手',
  'まで3手で先手の勝ち',
  '1 ７六歩(77)',
  '手合割：',
  '$5',
  '1-0',
  '"',
  '\\',
  '\u2028',
  '　',
  'words',
  '\n',
  '\n\n\n',
  ' ',
  '：',
  '-',
];

/** Words of hostile pieces; runs of spaces and blanks at the ends of lines are no words. */
const words = fc
  .array(fc.oneof(fc.constantFrom(...PIECES), fc.string({ unit: 'grapheme', maxLength: 5 })), {
    minLength: 1,
    maxLength: 12,
  })
  .map((parts) =>
    parts
      .join('')
      .replace(/\0/g, '')
      .replace(/[\t\r ]+/g, ' ')
      .split('\n')
      .map((line) => line.replace(/^ +| +$/g, ''))
      .join('\n')
      .replace(/^\n+|\n+$/g, ''),
  )
  .filter((text) => text !== '');

const oneLine = words.map((text) => text.replace(/\n/g, ' ').replace(/ +/g, ' '));
const tag: fc.Arbitrary<Tag> = fc.record({
  name: fc.oneof(
    fc.constantFrom(
      'Event',
      'Site',
      'Black',
      'White',
      'Opening',
      'Round',
      'EPD_bm',
      '備考',
      '$NOTE',
      'a"]\u2028[b',
    ),
    oneLine.filter((name) => name.length <= 60),
  ),
  value: oneLine,
});

const gameWith = (
  format: Format,
  tags: readonly Tag[],
  comment: string,
  lesson: string,
): GameRecord => {
  const ruleset = rulesetOf(formatKind(format));
  const start = ruleset.start();
  const tree = new TreeBuilder(ruleset.kind, ruleset.startText);
  tree.node(ROOT).comment = comment;
  const node = tree.node(tree.add(ROOT, ruleset.moves(start)[3]!));
  node.comment = comment;
  node.lesson = lesson;
  return { tree: tree.build(), tags, result: '*', end: null };
};

function readOne(text: string, format: Format): GameRecord {
  const readings = [...readGames(text, format)];
  if (readings.length !== 1 || !isRead(readings[0]!))
    throw new Error(`${text}\n${JSON.stringify(readings)}`);
  return readings[0].record;
}

const byName = (tags: readonly Tag[]): Tag[] =>
  tags.toSorted((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0));

describe('whatever a person writes comes back as it was', () => {
  it.each(['pgn', 'kif', 'ki2', 'csa'] as const)('%s', (format) => {
    fc.assert(
      fc.property(
        fc.uniqueArray(tag, { maxLength: 4, selector: ({ name }) => name }),
        words,
        oneLine,
        (tags, comment, lesson) => {
          const record = gameWith(format, tags, comment, lesson);
          const read = readOne(writeGame(record, format), format);
          expect(byName(read.tags)).toEqual(byName(tags));
          for (const id of [ROOT, nodeOf(read.tree, ROOT).children[0]!])
            expect(nodeOf(read.tree, id).comment).toBe(comment);
          expect(nodeOf(read.tree, nodeOf(read.tree, ROOT).children[0]!).lesson).toBe(lesson);
        },
      ),
      { numRuns: 400 },
    );
  });

  it('epd, its operations', () => {
    fc.assert(
      fc.property(oneLine, oneLine, (id, remark) => {
        const tags = [
          { name: 'Event', value: id },
          { name: 'EPD_c0', value: remark },
          { name: 'EPD_bm', value: remark },
        ];
        const text = writeGame(gameWith('epd', tags, 'x', 'x'), 'epd');
        expect(readOne(text, 'epd').tags).toEqual(tags);
        expect(readOne(writeGame(readOne(text, 'epd'), 'pgn'), 'pgn').tags).toEqual(tags);
      }),
      { numRuns: 200 },
    );
  });

  it('remarks of others, whatever they hold', () => {
    for (const format of ['pgn', 'kif', 'csa'] as const)
      fc.assert(
        fc.property(fc.array(words, { minLength: 1, maxLength: 3 }), (extras) => {
          const record = gameWith(format, [], 'x', 'x');
          const [id] = nodeOf(record.tree, ROOT).children;
          const nodes = new Map(record.tree.nodes);
          nodes.set(id!, { ...nodes.get(id!)!, extras });
          const text = writeGame({ ...record, tree: { ...record.tree, nodes } }, format);
          const read = readOne(text, format).tree;
          expect([...(nodeOf(read, id!).extras ?? [])].sort()).toEqual([...extras].sort());
        }),
        { numRuns: 200 },
      );
  });
});
