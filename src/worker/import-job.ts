import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import type { Problem } from '@/core/game/problem';
import {
  countImportFailure,
  finishImport,
  openImport,
  piecesOf,
  storePart,
  type OpenImport,
} from '@/server/imports';
import { gamesIn } from '@/server/import-part';
import { logger } from '@/server/log';
import { settings } from '@/server/settings';
import { isFullDisk } from '@/server/told-error';
import type { ImportAsked, ImportTold, ReadAsked } from './import-thread';

/** A reader that has told nothing for so long is stuck. */
const PATIENCE_MS = 30_000;
const LAST_FAILURE = 3;
const MOST_MEGABYTES = 1536;

/**
 * Reads an imported file on a thread of its own and stores its games part by part; taken up again, it goes on behind the last
 * part. A reader that gets stuck, or needs too much memory, is ended and the import says so.
 */
export async function runImport(
  id: number,
  signal: AbortSignal,
  patience = PATIENCE_MS,
): Promise<void> {
  const row = await openImport(id);
  if (!row) return;
  try {
    await readAndStore(row, signal, patience);
  } catch (error) {
    if (signal.aborted) return;
    logger('import').error({ err: error, import: id }, 'import failed');
    // another try would end the same until somebody makes room
    if (isFullDisk(error))
      return await finishImport(row, 'failed', problemAt('import.diskFull', row.read));
    if ((await countImportFailure(id)) < LAST_FAILURE) throw error;
    await finishImport(row, 'failed', problemAt('import.gaveUp', row.read));
  }
}

const problemAt = (code: string, read: number, params: Problem['params'] = {}): Problem => ({
  code,
  params,
  place: { line: 1, column: 1, game: read + 1 },
});

async function readAndStore(row: OpenImport, signal: AbortSignal, patience: number): Promise<void> {
  signal.throwIfAborted();
  const started = performance.now();
  const reader = new ImportReader(patience, piecesOf(row.id));
  const end = (): void => reader.end();
  signal.addEventListener('abort', end, { once: true });
  let { read } = row;
  try {
    reader.read({
      name: row.name,
      skip: row.read,
      most: settings().unpackedBytes,
      base: row.baseKind,
    });
    let told = await reader.told();
    // it reads on while a part is stored
    while ('part' in told) {
      if (!(await storePart(row, told.part, reader.readBytes))) return;
      read += gamesIn(told.part);
      told = await reader.told();
    }
    if ('failed' in told) return await finishImport(row, 'failed', told.failed);
    await finishImport(row, 'done');
    logger('import').info(
      { import: row.id, games: told.done.games, wall: performance.now() - started },
      'import done',
    );
  } catch (error) {
    if (!(error instanceof StuckReader)) throw error;
    await finishImport(
      row,
      'failed',
      problemAt(error.code, read, { seconds: Math.round(patience / 1000), most: MOST_MEGABYTES }),
    );
  } finally {
    signal.removeEventListener('abort', end);
    reader.end();
  }
}

class StuckReader extends Error {
  constructor(readonly code: 'import.stuck' | 'import.memory') {
    super(code);
  }
}

/** What the thread tells of the games that it reads. */
type Told = Exclude<ImportTold, 'piece'>;

/** The thread that reads, with an eye on whether it gets on; it is given the pieces of the file as it asks for them. */
class ImportReader {
  /** Bytes of the file that it has been given. */
  readBytes = 0;
  private readonly thread = new Worker(join(settings().root, 'dist/import-thread.mjs'), {
    resourceLimits: { maxOldGenerationSizeMb: MOST_MEGABYTES },
  });
  /** What it has told and nobody has taken yet. */
  private readonly waiting: Told[] = [];
  private settle: { resolve(told: Told): void; reject(error: Error): void } | null = null;
  private timer: NodeJS.Timeout | undefined;
  private ended: Error | null = null;

  constructor(
    private readonly patience: number,
    private readonly pieces: AsyncIterator<Buffer>,
  ) {
    this.thread.on('message', (told: ImportTold) => {
      if (told === 'piece') void this.givePiece();
      else this.hear(told);
    });
    this.thread.on('error', (error: Error & { code?: string }) =>
      this.fail(
        error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? new StuckReader('import.memory') : error,
      ),
    );
    this.thread.on('exit', () => this.fail(new Error('the reader has ended')));
  }

  /** Tells no more than what waits to be taken. */
  private fail(error: Error): void {
    this.ended ??= error;
    this.settle?.reject(this.ended);
  }

  private async givePiece(): Promise<void> {
    try {
      const { value, done } = await this.pieces.next();
      // who asks for more gets on
      this.timer?.refresh();
      this.readBytes += done ? 0 : value.length;
      this.ask({ piece: done ? null : new Uint8Array(value) });
    } catch (error) {
      this.fail(error as Error);
    }
  }

  private ask(asked: ImportAsked): void {
    this.thread.postMessage(asked);
  }

  read(asked: ReadAsked): void {
    this.ask({ read: asked });
  }

  /** What it tells next. @throws StuckReader when nothing comes in time */
  async told(): Promise<Told> {
    const told = this.waiting.shift() ?? (await this.coming());
    if ('part' in told) this.ask('taken');
    return told;
  }

  private hear(told: Told): void {
    const { settle } = this;
    this.settle = null;
    if (settle) settle.resolve(told);
    else this.waiting.push(told);
  }

  private coming(): Promise<Told> {
    return new Promise<Told>((resolve, reject) => {
      if (this.ended) return reject(this.ended);
      this.settle = { resolve, reject };
      this.timer = setTimeout(() => reject(new StuckReader('import.stuck')), this.patience);
    }).finally(() => {
      clearTimeout(this.timer);
      this.timer = undefined;
    });
  }

  end(): void {
    void this.thread.terminate();
    this.waiting.length = 0;
    this.fail(new Error('the import was called off'));
  }
}
