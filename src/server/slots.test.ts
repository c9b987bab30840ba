import { expect, it } from 'vitest';
import { Slots } from './slots';

it('only so many run at once, in order, and a failure frees its place', async () => {
  const slots = new Slots(2);
  const begun: number[] = [];
  const ends: ((error?: Error) => void)[] = [];
  const work = (name: number) =>
    slots.run(
      () =>
        new Promise<number>((resolve, reject) => {
          begun.push(name);
          ends[name] = (error) => (error ? reject(error) : resolve(name));
        }),
    );
  const all = [0, 1, 2, 3].map(work);
  const settled = () => new Promise((next) => setTimeout(next));
  await settled();
  expect(begun).toEqual([0, 1]);
  const failed = expect(all[1]).rejects.toThrow('broken');
  ends[1]!(new Error('broken'));
  await failed;
  await settled();
  expect(begun).toEqual([0, 1, 2]);
  ends[0]!();
  await settled();
  expect(begun).toEqual([0, 1, 2, 3]);
  ends[2]!();
  ends[3]!();
  expect(await Promise.all([all[0], all[2], all[3]])).toEqual([0, 2, 3]);
  // and all places are free again
  expect(await slots.run(() => Promise.resolve('x'))).toBe('x');
});
