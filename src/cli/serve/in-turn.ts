import { spawn } from 'node:child_process';
import { once } from 'node:events';

/** Does work while no other command does what takes the same lock; the lock goes with this process, however it ends. */
export async function inTurn<T>(
  lock: string,
  onWait: () => void,
  work: () => Promise<T>,
): Promise<T> {
  const holder = spawn('flock', [lock, 'sh', '-c', 'echo locked; cat'], {
    stdio: ['pipe', 'pipe', 'inherit'],
  });
  const waiting = setTimeout(onWait, 500);
  const [locked] = await Promise.race([
    once(holder.stdout, 'data'),
    once(holder, 'exit').then(() => [null]),
  ]).finally(() => clearTimeout(waiting));
  if (locked === null) throw new Error(`${lock} can't be locked`);
  try {
    return await work();
  } finally {
    holder.stdin.end();
    await once(holder, 'exit');
  }
}
