import { getPriority, setPriority } from 'node:os';
import { pool } from '@/server/database';
import { settings } from '@/server/settings';

/** Lets pages have the processors first: of this process with its threads, and of what the private database does for it. */
export function giveWay(): void {
  const { workerNice, databaseUrl } = settings();
  if (workerNice <= getPriority()) return;
  // threads that begin later have it too
  setPriority(workerNice);
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
