import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { Worker } from 'node:worker_threads';
import { GAME_KINDS, type GameKind } from '@/core/game/ruleset';
import { connectEngine } from '../client';
import type { Engine } from '../contract';
import { SearchModule, DEFAULT_TABLE_MEGABYTES } from '../search-module';

/** Where `scripts/build-engine.mjs` and the bundler put their results. */
export interface EngineFiles {
  /** Folder of `chess.wasm` and `shogi.wasm`. */
  modules: string;
  /** The bundled node-thread.ts. */
  thread: string;
}

const readModule = (files: Pick<EngineFiles, 'modules'>, kind: GameKind): Promise<Buffer> =>
  readFile(`${files.modules}/${kind}.wasm`);

/** The compiled search of a game, to be run in this thread. */
export async function loadSearch(
  files: Pick<EngineFiles, 'modules'>,
  kind: GameKind,
  { checked = false, table = DEFAULT_TABLE_MEGABYTES } = {},
): Promise<SearchModule> {
  return searchOf(kind, `${files.modules}/${kind}${checked ? '.checked' : ''}.wasm`, table);
}

/** The same of any module file: an earlier version, say. @param table megabytes */
export async function searchOf(kind: GameKind, path: string, table: number): Promise<SearchModule> {
  const bytes = new Uint8Array(await readFile(path));
  return new SearchModule(kind, await WebAssembly.compile(bytes), table);
}

/** Changes whenever the compiled search changes; part of the key of every stored evaluation. */
export async function engineVersion(files: EngineFiles, kind: GameKind): Promise<string> {
  const digest = createHash('sha256')
    .update(await readModule(files, kind))
    .digest('hex');
  return `bektra-${digest.slice(0, 12)}`;
}

export interface StartOptions {
  tableMegabytes?: number;
  threads?: number;
  /** The games that it is to search; both where it is not said. */
  kinds?: readonly GameKind[];
  /** Modules to use in place of the app's own, by game: earlier versions, say. */
  other?: Partial<Record<GameKind, string>>;
}

/** Starts an engine in threads of its own. */
export async function startEngine(
  files: EngineFiles,
  {
    tableMegabytes = DEFAULT_TABLE_MEGABYTES,
    threads = 1,
    kinds = GAME_KINDS,
    other = {},
  }: StartOptions = {},
): Promise<Engine> {
  const modules: Record<string, WebAssembly.Module> = {};
  for (const kind of kinds) {
    const name = `${files.modules}/${kind}${threads > 1 ? '.shared' : ''}.wasm`;
    modules[kind] = await WebAssembly.compile(new Uint8Array(await readFile(other[kind] ?? name)));
  }
  const mates = kinds.includes('shogi')
    ? { shogi: await WebAssembly.compile(await readFile(`${files.modules}/shogi-mates.wasm`)) }
    : {};
  return connectEngine(
    (receive, fail) => {
      const worker = new Worker(files.thread);
      worker.on('message', receive);
      worker.on('error', fail);
      worker.on('exit', (code) => fail(new Error(`engine thread ended with ${code}`)));
      return {
        post: (message) => worker.postMessage(message),
        terminate: () => void worker.terminate(),
      };
    },
    { modules, mates, tableMegabytes, threads },
  );
}
