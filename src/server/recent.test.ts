import { describe, expect, it, vi } from 'vitest';
import { Recent, RecentWork } from './recent';

it('keeps what was asked for last, as much as there is room for', () => {
  const kept = new Recent<string, number>(10);
  kept.set('a', 1, 4);
  kept.set('b', 2, 4);
  expect(kept.get('a')).toBe(1);
  kept.set('c', 3, 4);
  expect(['a', 'b', 'c'].map((key) => kept.get(key))).toEqual([1, undefined, 3]);
  // what is larger than all room stays until something else comes
  kept.set('d', 4, 11);
  expect(['a', 'c', 'd'].map((key) => kept.get(key))).toEqual([undefined, undefined, 4]);
  kept.set('a', 5, 10);
  expect(['a', 'd'].map((key) => kept.get(key))).toEqual([5, undefined]);
  // the same once more takes its room once
  kept.set('a', 6, 5);
  kept.set('b', 7, 5);
  expect(['a', 'b'].map((key) => kept.get(key))).toEqual([6, 7]);
});

describe('work that is kept', () => {
  it('is done once, however many ask for it at once or later', async () => {
    const kept = new RecentWork<string, number | undefined>(2);
    const work = vi.fn(() => Promise.resolve(undefined));
    await Promise.all([kept.get('a', work), kept.get('a', work)]);
    await kept.get('a', work);
    expect(work).toHaveBeenCalledTimes(1);
    expect(await kept.get('b', () => Promise.resolve(7))).toBe(7);
    // there is room for two
    await kept.get('c', work);
    await kept.get('a', work);
    expect(work).toHaveBeenCalledTimes(3);
  });

  it('is done anew where it failed', async () => {
    const kept = new RecentWork<string, number>(10);
    const failing = vi.fn(() => Promise.reject(new Error('away')));
    const asked = [kept.get('a', failing), kept.get('a', failing)];
    for (const one of asked) await expect(one).rejects.toThrow('away');
    expect(failing).toHaveBeenCalledTimes(1);
    expect(await kept.get('a', () => Promise.resolve(8))).toBe(8);
  });
});
