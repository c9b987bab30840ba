import type { Answer, Question } from '@/core/ask/question';
import type { GameKind } from '@/core/game/ruleset';
import { MateProver } from './mate-prover';
import { answerByChecks } from './mates-by-check';
import type { SearchModule, SharedSearch } from './search-module';

/** What the threads of one engine share to tell each other of. */
export interface Signals {
  /** The number of the last search called off, and of the last one whose helpers are to end. */
  stop: SharedArrayBuffer;
  /** Nodes searched so far, by thread. */
  nodes: SharedArrayBuffer;
}

/** Messages between an engine's thread and its client. */
export type ToThread =
  | {
      type: 'start';
      modules: Record<string, WebAssembly.Module>;
      /** Provers of mates, by game, where it has any. */
      mates: Partial<Record<GameKind, WebAssembly.Module>>;
      signals: Signals;
      table: number;
      /** 0: the thread whose result counts; the others help it. */
      thread: number;
      threads: number;
      /** By game, where several threads search together. */
      memories: Record<string, WebAssembly.Memory>;
    }
  | { type: 'search'; id: number; request: Question };
type Start = Extract<ToThread, { type: 'start' }>;
export type FromThread =
  | { type: 'ready' }
  | { type: 'info'; id: number; info: Answer }
  | { type: 'done'; id: number; info: Answer }
  | { type: 'failed'; id: number; message: string };

type Load = (
  kind: string,
  module: WebAssembly.Module,
  table: number,
  shared: SharedSearch | null,
) => SearchModule;

/** The thread's side of the contract: answers one message after the other. */
export function createService(
  load: Load,
  post: (message: FromThread) => void,
): (message: ToThread) => void {
  const loaded = new Map<string, SearchModule>();
  const provers = new Map<GameKind, MateProver>();
  let start: Start | null = null;

  function loadAll({ modules, memories, table, thread, threads }: Start): void {
    for (const [kind, module] of Object.entries(modules)) {
      const memory = memories[kind];
      const search = load(kind, module, table, memory ? { memory, thread, threads } : null);
      search.warmUp();
      loaded.set(kind, search);
    }
  }

  function moduleOf(kind: string): SearchModule {
    const search = loaded.get(kind);
    if (!search) throw new Error(`no search for ${kind}`);
    return search;
  }

  function proverOf(kind: GameKind): MateProver {
    const known = provers.get(kind);
    if (known) return known;
    const compiled = start?.mates[kind];
    if (!compiled) throw new Error(`no prover of mates for ${kind}`);
    const prover = new MateProver(kind, compiled);
    provers.set(kind, prover);
    return prover;
  }

  function run(id: number, request: Question): Answer {
    const { signals, thread, threads } = start!;
    const stop = new Int32Array(signals.stop);
    const counts = new Float64Array(signals.nodes);
    const called = thread === 0 ? [0] : [0, 1];
    const host = {
      shouldStop(nodes: number): boolean {
        counts[thread] = nodes;
        return called.some((index) => Atomics.load(stop, index) >= id);
      },
      nodesOfOthers: (): number =>
        threads === 1
          ? 0
          : counts.reduce((sum, value, index) => (index === 0 ? sum : sum + value), 0),
      now: () => performance.now(),
    };
    counts[thread] = 0;
    if (request.checks)
      return answerByChecks(proverOf(request.kind), request, () => host.shouldStop(0));
    if (thread > 0) return moduleOf(request.kind).search(helping(request), host);
    return moduleOf(request.kind).search(request, host, (info) => post({ type: 'info', id, info }));
  }

  return (message) => {
    if (message.type === 'start') {
      start = message;
      loadAll(message);
      post({ type: 'ready' });
      return;
    }
    const { id, request } = message;
    try {
      post({ type: 'done', id, info: run(id, request) });
    } catch (error) {
      post({ type: 'failed', id, message: error instanceof Error ? error.message : String(error) });
    }
  };
}

/** A helper fills the table until it is told to end; its own result is of no account. */
const helping = (request: Question): Question => ({
  ...request,
  budget: {},
  fresh: false,
});
