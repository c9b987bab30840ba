import { existsSync, readFileSync } from 'node:fs';
import { importStatusSchema } from '@/contract/imports';
import { closeAccount, findAccount, makeAccount } from '@/server/accounts';
import { closeDatabase } from '@/server/database';
import type { Owner } from '@/server/owner';
import { settings } from '@/server/settings';
import { CommandError } from '../exit';
import { runningServer } from '../serve/run-file';

const PASSWORD = 'a password for a bench';

/** Somebody who is signed in. */
export interface Visitor {
  server: string;
  cookie: string;
}

/** Beside the server that is running, with an account of its own that goes afterwards. `parts`: the app's processes. */
export async function withVisitor(
  work: (visitor: Visitor, account: Owner, parts: readonly number[]) => Promise<void>,
): Promise<void> {
  const running = await runningServer(settings().data);
  if (!running)
    throw new CommandError('Start Bektra first (./bektra start), then run this bench beside it.');
  const name = `Bench ${Date.now()}`;
  const account = (await makeAccount(name, PASSWORD))!;
  try {
    const cookie = await signIn(running.url, name);
    await work({ server: running.url, cookie }, account, running.parts);
  } finally {
    await closeAccount((await findAccount(name))!, PASSWORD);
    await closeDatabase();
  }
}

async function signIn(server: string, name: string): Promise<string> {
  const answer = await fetch(new URL('/api/account/session', server), {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name, password: PASSWORD }),
  });
  return answer.headers.getSetCookie()[0]!.split(';')[0]!;
}

/** Asks for something as a visitor. */
export const asking =
  ({ server, cookie }: Visitor) =>
  (path: string): Promise<Response> => {
    const ask = (): Promise<Response> => fetch(new URL(path, server), { headers: { cookie } });
    // a connection that was idle for long may just have been closed
    return ask().catch(ask);
  };

export const quantile = (values: readonly number[], share: number): number =>
  values.toSorted((a, b) => a - b)[Math.min(values.length - 1, Math.floor(share * values.length))]!;

/** Milliseconds until an answer is there, and those of them that the app's own code took at the server. */
export interface Times {
  whole: number;
  inside: number;
}

export async function times(work: () => Promise<Response>): Promise<Times> {
  const started = performance.now();
  const answer = await work();
  if (!answer.ok) throw new Error(`the server answered ${answer.status}`);
  await answer.arrayBuffer();
  const whole = performance.now() - started;
  const [, inside] = /dur=([\d.]+)/.exec(answer.headers.get('server-timing') ?? '') ?? [];
  return { whole, inside: Number(inside) };
}

/** Quantiles of what answers took, as who asks sees it and at the server. */
export function toldTimes(found: readonly Times[]): string {
  const of = (part: keyof Times): string => {
    const values = found.map((one) => one[part]);
    const at = (share: number): string => quantile(values, share).toFixed(1);
    return `p50 ${at(0.5)} ms, p95 ${at(0.95)} ms`;
  };
  return `${of('whole')}; inside ${of('inside')}; ${found.length} asked`;
}

export const timed = async (work: () => Promise<Response>): Promise<number> =>
  (await times(work)).whole;

/** Milliseconds a game of a file that is sent: of all until the last is stored, and of the first and last tenth. */
export async function importPaces(
  { server, cookie }: Visitor,
  file: Blob | Uint8Array<ArrayBuffer>,
  query = 'name=bench.pgn',
): Promise<{ whole: number; first: number; last: number }> {
  const started = performance.now();
  const sent = await fetch(new URL(`/api/imports?${query}`, server), {
    method: 'POST',
    headers: { cookie },
    body: file,
  });
  let status = importStatusSchema.parse(await sent.json());
  const seen = [{ at: started, read: 0 }];
  while (status.state === 'queued' || status.state === 'running') {
    await new Promise((resolve) => setTimeout(resolve, 250));
    const answer = await fetch(new URL(`/api/imports/${status.id}`, server), {
      headers: { cookie },
    });
    status = importStatusSchema.parse(await answer.json());
    seen.push({ at: performance.now(), read: status.read });
  }
  if (status.state !== 'done') throw new Error(`the import is ${status.state}`);
  if (status.kept < status.read)
    throw new Error(`only ${status.kept} of ${status.read} games are new`);
  const begun = seen.findLast(({ read }) => read === 0)!;
  const within = (from: number, to: number): number => {
    const some = seen.filter(({ read }) => read >= from * status.read && read <= to * status.read);
    const [first, last] = [from === 0 ? begun : some[0]!, some.at(-1)!];
    return (last.at - first.at) / (last.read - first.read);
  };
  return {
    whole: (performance.now() - started) / status.read,
    first: within(0, 0.1),
    last: within(0.9, 1),
  };
}

/** Memory in use by the worker among the parts of the app. */
export function megabytesOf(parts: readonly number[]): number {
  for (const pid of parts) {
    const at = `/proc/${pid}`;
    if (!existsSync(at) || !readFileSync(`${at}/cmdline`, 'utf8').includes('worker')) continue;
    const [, kilobytes] = /VmRSS:\s+(\d+)/.exec(readFileSync(`${at}/status`, 'utf8')) ?? [];
    return Math.round(Number(kilobytes) / 1024);
  }
  return 0;
}
