import { describe, expect, it } from 'vitest';
import { CARDS } from './card-names';
import { movedTo, orderFrom } from './card-order';

describe('the order of the cards', () => {
  it('is as it was kept, with new cards at its end and without those that are gone', () => {
    expect(orderFrom(undefined)).toEqual(CARDS);
    expect(orderFrom('lines')).toEqual(CARDS);
    const kept = orderFrom(['game', 'gone', 'lines', 'game', 7]);
    expect(kept.slice(0, 2)).toEqual(['game', 'lines']);
    expect(kept.toSorted()).toEqual(CARDS.toSorted());
  });

  it('changes by one card going to another place, no further than the ends', () => {
    const order = CARDS.slice(0, 3);
    const [first, second, third] = order;
    expect(movedTo(order, first!, 1)).toEqual([second, first, third]);
    expect(movedTo(order, third!, 0)).toEqual([third, first, second]);
    expect(movedTo(order, first!, 9)).toEqual([second, third, first]);
    expect(movedTo(order, first!, -1)).toEqual(order);
  });
});
