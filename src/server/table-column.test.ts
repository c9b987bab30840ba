import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NumberColumn, TextColumn } from './table-column';

describe('a column of a table', () => {
  it('holds what it was last told, wherever it grew meanwhile', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(500), fc.option(fc.constantFrom('a', 'b', 'ä', '')))),
        (told) => {
          const texts = new TextColumn();
          const numbers = new NumberColumn();
          const last = new Map<number, string | null>();
          for (const [place, text] of told) {
            texts.set(place, text);
            numbers.set(place, text === null ? null : text.length);
            last.set(place, text);
          }
          for (const [place, text] of last) {
            expect(texts.at(place)).toBe(text);
            expect(numbers.values[place]).toBe(text === null ? NaN : text.length);
          }
        },
      ),
    );
  });

  it('places numbers by their size, those that are not known before all', () => {
    const column = new NumberColumn();
    for (const [place, value] of [3, null, -1.5, 10, 3, 0].entries()) column.set(place, value);
    expect([...column.places().slice(0, 6)]).toEqual([2, -1, 0, 3, 2, 1]);
    column.set(1, 5);
    expect([...column.places().slice(0, 6)]).toEqual([2, 3, 0, 4, 2, 1]);
  });

  it('ranks texts by their characters, those that are not known before all', () => {
    const column = new TextColumn();
    for (const [place, text] of ['b', null, 'a', 'B', 'b', '一'].entries()) column.set(place, text);
    expect([...column.ranks().slice(0, 6)]).toEqual([2, -1, 1, 0, 2, 3]);
    column.set(1, 'A');
    expect([...column.ranks().slice(0, 6)]).toEqual([3, 0, 2, 1, 3, 4]);
  });

  it('counts how many of some places have each text', () => {
    const column = new TextColumn();
    for (const [place, text] of ['a', 'b', 'a', null, 'a', null].entries()) column.set(place, text);
    expect(column.countOf(Int32Array.of(0, 2, 3, 5))).toEqual(
      new Map<string | null, number>([
        ['a', 2],
        [null, 2],
      ]),
    );
    expect(column.countOf(new Int32Array())).toEqual(new Map());
  });

  it('asks of each different text once whether it fits', () => {
    const column = new TextColumn();
    for (const [place, text] of ['a', 'b', 'a', null].entries()) column.set(place, text);
    let asked = 0;
    const fits = column.test((text) => (asked++, text === 'a'));
    expect([0, 1, 2, 3].map(fits)).toEqual([true, false, true, false]);
    expect(asked).toBe(2);
  });
});
