import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { expect, it } from 'vitest';
import { refreshQueries } from './refresh-queries';

/** Something in sight whose answers are given by hand, each as it was when it was asked. */
function inSight(queryKey: string[]) {
  const client = new QueryClient();
  const asked: (() => void)[] = [];
  let value = 1;
  const observer = new QueryObserver(client, {
    queryKey,
    queryFn: () => {
      const told = value;
      return new Promise<number>((resolve) => asked.push(() => resolve(told)));
    },
  });
  observer.subscribe(() => undefined);
  const answer = async (index: number): Promise<void> => {
    asked[index]!();
    await new Promise((next) => setTimeout(next, 5));
  };
  const change = (): void => void value++;
  return { client, asked, answer, change, seen: () => observer.getCurrentResult().data };
}

it('asks once more for what was being asked for the first time, however often it changes meanwhile', async () => {
  const { client, asked, answer, change, seen } = inSight(['list']);
  for (let times = 0; times < 3; times++) {
    change();
    void refreshQueries(client, ['list']);
  }
  expect(asked).toHaveLength(1);
  await answer(0);
  expect(seen()).toBe(1);
  expect(asked).toHaveLength(2);
  await answer(1);
  expect(seen()).toBe(4);
  expect(asked).toHaveLength(2);
});

it('asks anew at once where there is an answer, and leaves alone what has another key', async () => {
  const { client, asked, answer, change, seen } = inSight(['list']);
  await answer(0);
  change();
  void refreshQueries(client, ['other']);
  expect(asked).toHaveLength(1);
  void refreshQueries(client, ['list']);
  expect(asked).toHaveLength(2);
  // what was being asked is given up for what changed since
  change();
  void refreshQueries(client, ['list']);
  expect(asked).toHaveLength(3);
  await answer(1);
  await answer(2);
  expect(seen()).toBe(3);
});
