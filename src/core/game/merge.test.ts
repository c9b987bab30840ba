import { describe, expect, it } from 'vitest';
import { readGames, type Format } from '../notation/formats';
import { isRead } from '../notation/reading';
import { mergeSteps } from './merge';
import { LIMITS } from './problem';
import { tagOf, type GameRecord } from './record';
import { applySteps, freshId } from './steps';
import { mainLine, nodeOf, nodesInOrder, type GameNode } from './tree';

const read = (text: string, format: Format = 'pgn'): GameRecord => {
  const [reading] = readGames(text, format);
  if (!reading || !isRead(reading)) throw new Error('not read');
  return reading.record;
};

let drawn = 0;
const merged = (known: GameRecord, other: GameRecord): GameRecord =>
  applySteps(
    known,
    mergeSteps(known, other, () => freshId(known.tree, () => (++drawn * 0.618) % 1)),
  );
const first = ({ tree }: GameRecord): GameNode => mainLine(tree)[0]!;
/** What a game says, whatever its nodes are called. */
const said = ({ tree, tags, result }: GameRecord) => ({
  nodes: [...nodesInOrder(tree)].map(({ id: _, parent: __, children, ...rest }) => ({
    ...rest,
    moves: children.map((child) => nodeOf(tree, child).move),
  })),
  tags,
  result,
});

const BARE = '[White "A"]\n\n1. e4 e5 2. Nf3 Nc6 *';
const RICH =
  '[White "A"]\n[WhiteElo "1800"]\n\n1. e4 {[%clk 0:10:00] best by test [%csl Ge4]} e5 $1 (1... c5 2. Nf3) 2. Nf3 Nc6 1-0';

describe('two records of one game', () => {
  it('are one game with all that either says', () => {
    for (const [one, other] of [
      [BARE, RICH],
      [RICH, BARE],
    ]) {
      const both = merged(read(one!), read(other!));
      expect(said(both).nodes).toEqual(said(read(RICH)).nodes);
      expect([both.result, tagOf(both.tags, 'WhiteElo')]).toEqual(['1-0', '1800']);
    }
  });

  it('have nothing to add to each other once they were merged', () => {
    const other = read(
      '[White "A"]\n[Site "Home"]\n\n1. e4 {king’s pawn} e5 $2 $10 2. Nf3 (2. f4) Nc6 1-0',
    );
    const both = merged(read(RICH), other);
    for (const again of [other, read(RICH), read(BARE), both])
      expect(mergeSteps(both, again, () => 1)).toEqual([]);
  });

  it('keep what one of them alone can say: clocks, signs and results as they were', () => {
    const other = read('1. e4 {[%clk 0:09:00]} e5 $4 $14 2. Nf3 Nc6 0-1');
    const both = merged(read(RICH), other);
    const [white, black] = mainLine(both.tree);
    expect(white!.clock).toBe(600_000);
    expect(black!.symbols).toEqual([1, 14]);
    expect(both.result).toBe('1-0');
  });

  it.each([
    ['a', 'b', 'a\n\nb'],
    ['a and b', 'b', 'a and b'],
    ['b', 'a and b', 'a and b'],
  ])('have words one behind the other: %s, %s', (own, others, both) => {
    const [mine, theirs] = [own, others].map((words) => read(`1. e4 {${words}} *`));
    expect(first(merged(mine!, theirs!)).comment).toBe(both);
  });

  it('keep to what may be written at one place', () => {
    const long = (letter: string) => read(`1. e4 {${letter.repeat(LIMITS.commentLength / 2)}} *`);
    expect(mergeSteps(long('a'), long('b'), () => 1)).toEqual([]);
    const marks = (from: number, count: number) =>
      read(
        `1. e4 {[%cal ${Array.from({ length: count }, (_, index) => {
          const at = from + index;
          return `G${'abcdefgh'[at % 8]}${1 + (Math.floor(at / 8) % 8)}${'abcdefgh'[Math.floor(at / 64) % 8]}8`;
        }).join(',')}]} *`,
      );
    expect(mergeSteps(marks(0, 100), marks(100, 101), () => 1)).toEqual([]);
    expect(first(merged(marks(0, 100), marks(100, 100))).marks).toHaveLength(LIMITS.marks);
  });

  it('are merged in shogi too', () => {
    const kif = (after: string) =>
      read(`手合割：平手\n   1 ７六歩(77)${after}\n   2 ３四歩(33)\n`, 'kif');
    const both = merged(kif('   ( 0:05/00:00:05)'), kif('\n*角道を開ける'));
    expect(first(both)).toMatchObject({ spent: 5000, comment: '角道を開ける' });
  });
});
