import { readFileSync, writeFileSync } from 'node:fs';
import { getPriority, setPriority } from 'node:os';
import { pool } from '@/server/database';
import { settings } from '@/server/settings';

/** Lets pages have the processors first: of this process with its threads, and of what the private database does for it. */
export function giveWay(): void {
  const { workerNice, databaseUrl } = settings();
  if (workerNice <= getPriority()) return;
  // threads that begin later have it too
  setPriority(workerNice);
  letSessionGiveWay(workerNice);
  // a database elsewhere is its operator's
  if (databaseUrl !== null) return;
  pool().on('connect', (client) => {
    // the process that serves it, as the server told the connection
    const { processID } = client as { processID?: number };
    try {
      if (processID) setPriority(processID, workerNice);
    } catch {
      // it has ended, or belongs to somebody else: it runs as it did
    }
  });
}

/**
 * Linux may share the processors among sessions first (`sched_autogroup_enabled`), and heed priorities only within each: then the session
 * that this process leads gives way too, to whatever else runs on the machine.
 */
function letSessionGiveWay(nice: number): void {
  try {
    const stat = readFileSync('/proc/self/stat', 'utf8');
    // behind the name, which may hold anything: state, parent, group, session
    const session = Number(stat.slice(stat.lastIndexOf(')') + 2).split(' ')[3]);
    if (session === process.pid) writeFileSync('/proc/self/autogroup', String(nice));
  } catch {
    // a system that knows no such groups
  }
}
