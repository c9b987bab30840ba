import { existsSync } from 'node:fs';
import { readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';

const runSchema = z.object({ pid: z.number().int(), url: z.string() });
export type RunningServer = z.infer<typeof runSchema>;

const fileIn = (data: string): string => join(data, 'running.json');

const isAlive = async (pid: number): Promise<boolean> => {
  try {
    process.kill(pid, 0);
    return /bektra|cli\.mjs/.test(await readFile(`/proc/${pid}/cmdline`, 'utf8'));
  } catch {
    return false;
  }
};

/** The server that runs on the data folder; what a killed one left behind does not count. */
export async function runningServer(data: string): Promise<RunningServer | null> {
  const file = fileIn(data);
  if (!existsSync(file)) return null;
  const parsed = runSchema.safeParse(JSON.parse(await readFile(file, 'utf8')));
  return parsed.success && (await isAlive(parsed.data.pid)) ? parsed.data : null;
}

export const noteRunning = (data: string, server: RunningServer): Promise<void> =>
  writeFile(fileIn(data), JSON.stringify(server));

export const forgetRunning = (data: string): Promise<void> => rm(fileIn(data), { force: true });
