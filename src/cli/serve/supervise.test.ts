import { spawn } from 'node:child_process';
import { afterEach, expect, it } from 'vitest';
import { supervise, type Supervised } from './supervise';

let supervised: Supervised | null = null;
afterEach(() => supervised?.stop());

/** Supervises a program, and counts how often it was started and how often it ended. */
function watch(program: string) {
  const seen = { starts: 0, ends: 0 };
  supervised = supervise(
    'part',
    () => spawn(process.execPath, ['-e', program], { stdio: 'ignore' }),
    () => seen.ends++,
    () => seen.starts++,
  );
  return { part: supervised, seen };
}

const until = async (test: () => boolean): Promise<void> => {
  while (!test()) await new Promise((next) => setTimeout(next, 20));
};

it('a program that dies is started anew after a pause, or at once when it is woken', async () => {
  const { part, seen } = watch('process.exit(1)');
  await until(() => seen.ends === 1);
  expect(seen.starts).toBe(1);
  expect(part.pid()).toBeNull();
  part.wake();
  expect(seen.starts).toBe(2);
  part.wake();
  expect(seen.starts).toBe(2);
  await until(() => seen.starts === 3);
});

it('one that runs is left alone when woken, replaced when restarted, and gone when stopped', async () => {
  const { part, seen } = watch('setInterval(() => {}, 1000)');
  const first = part.pid();
  part.wake();
  expect(part.pid()).toBe(first);
  part.restart();
  await until(() => seen.starts === 2);
  expect(part.pid()).not.toBe(first);
  await part.stop();
  expect(part.pid()).toBeNull();
  expect(seen.starts).toBe(2);
});

it('one that waits to be started is not started after it was stopped', async () => {
  const { part, seen } = watch('process.exit(1)');
  await until(() => seen.ends === 1);
  await part.stop();
  part.wake();
  await new Promise((next) => setTimeout(next, 1500));
  expect(seen.starts).toBe(1);
});
