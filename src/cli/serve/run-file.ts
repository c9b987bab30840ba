import { existsSync } from 'node:fs';
import { readFile, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import * as z from 'zod';

const runSchema = z.object({
  pid: z.number().int(),
  url: z.string(),
  /** The processes that it started: left over when it is killed without warning. */
  parts: z.array(z.number().int()),
});
export type RunningServer = z.infer<typeof runSchema>;

const fileIn = (data: string): string => join(data, 'running.json');

/** Whether the process is alive and one of ours, not another that got its number. */
async function isOurs(pid: number): Promise<boolean> {
  try {
    process.kill(pid, 0);
    return /cli\.mjs|web\.mjs|worker\.mjs|next/.test(
      await readFile(`/proc/${pid}/cmdline`, 'utf8'),
    );
  } catch {
    return false;
  }
}

async function readRunFile(data: string): Promise<RunningServer | null> {
  const file = fileIn(data);
  if (!existsSync(file)) return null;
  try {
    return runSchema.parse(JSON.parse(await readFile(file, 'utf8')));
  } catch {
    return null;
  }
}

/** The server that runs on the data folder; what a killed one left behind does not count. */
export async function runningServer(data: string): Promise<RunningServer | null> {
  const server = await readRunFile(data);
  return server && (await isOurs(server.pid)) ? server : null;
}

/** Ends what a server that was killed without warning has left running. */
export async function endOrphans(data: string): Promise<void> {
  const server = await readRunFile(data);
  if (!server || (await isOurs(server.pid))) return;
  for (const pid of server.parts) if (await isOurs(pid)) process.kill(pid, 'SIGKILL');
}

let notes = 0;

/** Notes the server that runs; the file is never seen half-written, however often it is renewed. */
export async function noteRunning(data: string, server: RunningServer): Promise<void> {
  const file = fileIn(data);
  const fresh = `${file}.${process.pid}-${notes++}`;
  await writeFile(fresh, JSON.stringify(server));
  await rename(fresh, file);
}

export const forgetRunning = (data: string): Promise<void> => rm(fileIn(data), { force: true });
