import { otherSide, type GameKind, type SearchRoot, type Side } from '@/core/game/ruleset';
import { cpScore, mateScore, type Score } from '@/core/game/score';
import { rulesetOf } from '@/core/rulesets';
import type { Answer, AnswerLine, Question } from '@/core/ask/question';
import { adapterOf, type BoardAdapter, type BoardExports } from './board-adapter';
import { TERM_GROUPS, type TermWeights } from './terms';

/** What the compiled search exports; see src/engine/search/index.ts. */
interface SearchExports extends BoardExports {
  reserve(bytes: number): number;
  useTable(address: number, bytes: number): void;
  networkBytes(): number;
  outputBucket(): number;
  useNetwork(address: number): void;
  setWeights(term: number, early: number, late: number): void;
  evaluateByNetwork(): number;
  currentKey(): bigint;
  generateChecks(start: number, near: boolean): number;
  evaluateByTerms(): number;
  explain(): number;
  phaseNow(): number;
  countsAddress(): number;
  MOST_TERMS: WebAssembly.Global;
  shallowTable(): number;
  SHALLOW_BYTES: WebAssembly.Global;
  memory?: WebAssembly.Memory;
  setHeadStart(plies: number): void;
  clearMemory(): void;
  forgetRepeated(): void;
  addRepeated(checker: number): void;
  forgetOnly(): void;
  addOnly(move: number): void;
  think(depth: number, nodes: number, lines: number, plain: boolean): number;
  linesFound(): number;
  scoreOfLine(line: number): number;
  lengthOfLine(line: number): number;
  moveOfLine(line: number, index: number): number;
  nodesSearched(): number;
  perft(depth: number): number;
  /** Of a build for tuning alone. */
  initSearch?(): void;
}

/** Numbers that every build exports; what else a build for tuning does are margins. */
const NO_MARGINS: readonly string[] = ['MOST_TERMS', 'SHALLOW_BYTES'];

const MATE = 32000;
const MATE_BOUND = 31000;
const MOST_DEPTH = 126;
const NO_CHECKER = 2;
const FULL_PHASE = 24;
/** Enough to have run nearly all of the search. */
const WARM_NODES = 2000;
/** Of the table, what that takes. */
const WARM_BYTES = 2 ** 16;
export const DEFAULT_TABLE_MEGABYTES = 16;

/** What the thread that runs a search supplies. */
export interface SearchHost {
  /** @param nodes searched so far */
  shouldStop(nodes: number): boolean;
  /** Nodes that other threads have searched meanwhile. */
  nodesOfOthers?(): number;
  /** Milliseconds of a steady clock. */
  now(): number;
}

/** For searches that end by depth or nodes alone. */
export const UNTIMED: SearchHost = { shouldStop: () => false, now: () => 0 };

/** The memory that several threads search in, and which of them this is. */
export interface SharedSearch {
  memory: WebAssembly.Memory;
  /** 0: the one whose result counts. */
  thread: number;
  threads: number;
}

const MEGABYTE = 2 ** 20;
/** What one thread needs for itself. */
const THREAD_BYTES = 24 * MEGABYTE;
const PAGE = 65_536;

/** Memory for some threads and the table that they share; pages are taken up only as they are used. */
export const sharedMemory = (threads: number, tableMegabytes: number): WebAssembly.Memory =>
  new WebAssembly.Memory({
    initial: (threads * THREAD_BYTES + tableBytes(tableMegabytes)) / PAGE,
    maximum: 16_384,
    shared: true,
  });

/** @param megabytes rounded down to a power of two, 1–512 */
function tableBytes(megabytes: number): number {
  return 2 ** Math.floor(Math.log2(Math.min(512, Math.max(1, megabytes)))) * MEGABYTE;
}

/** One instance of the compiled search of a game. Its calls block until the search is over. */
export class SearchModule {
  private onPoll: (nodes: number) => boolean = () => false;
  private onReport: (depth: number, deepest: number, nodes: number) => void = () => {};
  private weights: TermWeights = {};
  private networkAt = 0;
  private tableAt = 0;
  private tableBytes = 0;
  /** Nothing was searched, and no weights were changed, since all was forgotten. */
  private isClear = false;
  private readonly adapter: BoardAdapter;
  private readonly exports: SearchExports;

  constructor(
    readonly kind: GameKind,
    module: WebAssembly.Module,
    tableMegabytes = DEFAULT_TABLE_MEGABYTES,
    private readonly shared: SharedSearch | null = null,
  ) {
    this.adapter = adapterOf(kind);
    const instance = new WebAssembly.Instance(module, {
      host: {
        poll: (nodes: number) => (this.onPoll(nodes) ? 1 : 0),
        report: (depth: number, deepest: number, nodes: number) =>
          this.onReport(depth, deepest, nodes),
        ownMemoryAt: () => (shared ? shared.thread * THREAD_BYTES : 0),
      },
      env: {
        ...(shared ? { memory: shared.memory } : {}),
        abort: (_message: number, file: number, line: number) => {
          throw new Error(`search failed: ${readText(this.memory, file)}, line ${line}`);
        },
      },
    });
    this.exports = instance.exports as unknown as SearchExports;
    if (shared) this.exports.setHeadStart(shared.thread & 1);
    this.loadWeights(module);
    this.resizeTable(tableMegabytes);
  }

  private get memory(): WebAssembly.Memory {
    return this.shared?.memory ?? this.exports.memory!;
  }

  /** The weights travel in the module's own sections. */
  private loadWeights(module: WebAssembly.Module): void {
    const [terms] = WebAssembly.Module.customSections(module, 'terms');
    if (terms) this.setTerms(JSON.parse(new TextDecoder().decode(terms)) as TermWeights);
    const [network] = WebAssembly.Module.customSections(module, 'network');
    if (network) this.setNetwork(new Uint8Array(network));
  }

  setTerms(weights: TermWeights): void {
    this.isClear = false;
    this.weights = weights;
    for (const { name, first } of TERM_GROUPS[this.kind])
      weights[name]!.forEach(([early, late], index) =>
        this.exports.setWeights(first + index, early, late),
      );
  }

  /** Evaluates by a network from now on; null: by the terms. */
  setNetwork(network: Uint8Array | null): void {
    this.isClear = false;
    if (!network) return this.exports.useNetwork(0);
    const size = this.exports.networkBytes();
    if (network.length !== size)
      throw new Error(`a network of ${network.length} bytes where ${size} were expected`);
    this.networkAt ||= this.exports.reserve(size);
    new Uint8Array(this.memory.buffer).set(network, this.networkAt);
    this.exports.useNetwork(this.networkAt);
  }

  /** What the table held is lost; see {@link tableBytes}. */
  resizeTable(megabytes: number): void {
    const bytes = tableBytes(megabytes);
    const { shared, exports } = this;
    if (shared) {
      exports.useTable(shared.threads * THREAD_BYTES, bytes);
      return;
    }
    if (bytes <= this.tableBytes) {
      exports.useTable(this.tableAt, bytes);
      this.clear();
      return;
    }
    if (this.tableBytes > 0) this.clear();
    // memory newly reserved is clear, and the system's until it is written to
    this.tableAt = exports.reserve(bytes);
    this.tableBytes = bytes;
    exports.useTable(this.tableAt, bytes);
    this.isClear = true;
  }

  /** The memory of the table, and of its shallow part: what stands there may be anything at all, and is never believed unseen. */
  get tables(): Uint8Array[] {
    const { memory, exports } = this;
    return [
      new Uint8Array(memory.buffer, this.tableAt, this.tableBytes),
      new Uint8Array(memory.buffer, exports.shallowTable(), exports.SHALLOW_BYTES.value as number),
    ];
  }

  private marginGlobals(): [string, WebAssembly.Global][] {
    if (!this.exports.initSearch) return [];
    return Object.entries({ ...this.exports }).filter(
      (entry): entry is [string, WebAssembly.Global] =>
        (entry[1] as unknown) instanceof WebAssembly.Global && !NO_MARGINS.includes(entry[0]),
    );
  }

  /** The margins of a build for tuning, by their names; none of any other. */
  margins(): Record<string, number> {
    return Object.fromEntries(
      this.marginGlobals().map(([name, { value }]) => [name, value as number]),
    );
  }

  /** @param margins whole numbers, by the names of all */
  setMargins(margins: Readonly<Record<string, number>>): void {
    for (const [name, global] of this.marginGlobals()) global.value = margins[name];
    this.exports.initSearch!();
    this.clear();
  }

  clear(): void {
    this.exports.clearMemory();
    this.isClear = true;
  }

  /** The readable evaluation of a position: its value for side 0, how much of the middlegame is left, and each term's count. */
  explain(position: string): { value: number; phase: number; counts: Int32Array } {
    const { exports } = this;
    const side = this.adapter.setUp(exports, position);
    const value = exports.explain();
    const counts = new Int32Array(
      this.memory.buffer,
      exports.countsAddress(),
      exports.MOST_TERMS.value as number,
    );
    return {
      value: side === 0 ? value : 0 - value,
      phase: exports.phaseNow() / FULL_PHASE,
      counts,
    };
  }

  /** Which of the network's outputs stands for a position: 0–3, by pieces on the board (chess) or in hand (shogi). */
  outputBucket(position: string): number {
    this.adapter.setUp(this.exports, position);
    return this.exports.outputBucket();
  }

  /** What each family of terms gives side 0, in hundredths of a pawn, largest first. */
  terms(position: string): { name: string; value: number }[] {
    const { phase, counts } = this.explain(position);
    return TERM_GROUPS[this.kind]
      .map(({ name, first }) => ({
        name,
        value: this.weights[name]!.reduce(
          (sum, [early, late], index) =>
            sum + counts[first + index]! * (early * phase + late * (1 - phase)),
          0,
        ),
      }))
      .filter(({ value }) => value !== 0)
      .sort((a, b) => Math.abs(b.value) - Math.abs(a.value));
  }

  /** Value of a position by the terms as the search sums them, in hundredths of a pawn for the side to move. */
  termsValue(position: string): number {
    this.adapter.setUp(this.exports, position);
    return this.exports.evaluateByTerms();
  }

  /** The same along a line, for the position and after every so many of its moves. */
  termsValuesAlong(position: string, codes: readonly string[], every: number): number[] {
    const values = [this.termsValue(position)];
    for (let at = 0; at + every <= codes.length; at += every) {
      this.play(codes.slice(at, at + every));
      values.push(this.exports.evaluateByTerms());
    }
    return values;
  }

  /** Value of a position by the network alone, in hundredths of a pawn for the side to move. */
  networkValue(position: string): number {
    this.adapter.setUp(this.exports, position);
    return this.exports.evaluateByNetwork();
  }

  /** The same after some moves are played from a position. */
  networkValueAfter(position: string, codes: readonly string[]): number {
    this.playFrom(position, codes);
    return this.exports.evaluateByNetwork();
  }

  /** By what the search knows a position again: 64 bits, for the position after some moves. */
  keyAfter(position: string, codes: readonly string[]): bigint {
    this.playFrom(position, codes);
    return this.exports.currentKey();
  }

  private playFrom(position: string, codes: readonly string[]): void {
    this.adapter.setUp(this.exports, position);
    this.play(codes);
  }

  private play(codes: readonly string[]): void {
    const { parseCode } = rulesetOf(this.kind);
    for (const code of codes) this.exports.makeMove(this.adapter.toSearch(parseCode(code)!));
  }

  /** Leaf count of the position by the search's own rules. */
  perft(position: string, depth: number): number {
    this.adapter.setUp(this.exports, position);
    return depth === 0 ? 1 : this.exports.perft(depth);
  }

  /**
   * The quiet moves that give check from where they end, as the search looks for them: UCI or USI, some perhaps not legal.
   * @param near only those that can't be met by a piece put between
   */
  quietChecks(position: string, near: boolean): string[] {
    this.adapter.setUp(this.exports, position);
    const count = this.exports.generateChecks(0, near);
    const { code } = rulesetOf(this.kind);
    return Array.from({ length: count }, (_, place) =>
      code(this.adapter.fromSearch(this.exports.listedMove(place))),
    );
  }

  /** Searches a little and forgets it: code that runs for the first time is compiled first, and the next search does not wait. */
  warmUp(): void {
    // a search writes all over its table: to a small part of it that is
    if (!this.shared) this.exports.useTable(this.tableAt, WARM_BYTES);
    const ruleset = rulesetOf(this.kind);
    const root = ruleset.searchRoot(ruleset.start(), []);
    this.search(
      { kind: this.kind, root, budget: { nodes: WARM_NODES }, lines: 3, fresh: false },
      UNTIMED,
    );
    this.clear();
    if (!this.shared) this.exports.useTable(this.tableAt, this.tableBytes);
  }

  private setUp({ position, repeated }: SearchRoot): Side {
    this.exports.forgetRepeated();
    for (const earlier of repeated) {
      this.adapter.setUp(this.exports, earlier.position);
      this.exports.addRepeated(earlier.checker ?? NO_CHECKER);
    }
    return this.adapter.setUp(this.exports, position);
  }

  /** Searches until a limit is reached or the host says stop. */
  search(request: Question, host: SearchHost, onInfo?: (info: Answer) => void): Answer {
    if (request.checks) throw new Error('mates by check are asked of their prover');
    const { exports, adapter } = this;
    const { budget } = request;
    const started = host.now();
    if (request.fresh && !this.isClear) this.clear();
    this.isClear = false;
    const side = this.setUp(request.root);
    exports.forgetOnly();
    const { parseCode } = rulesetOf(this.kind);
    for (const code of request.only ?? []) {
      const move = parseCode(code);
      if (move !== null) exports.addOnly(adapter.toSearch(move));
    }
    const deadline = budget.milliseconds === undefined ? Infinity : started + budget.milliseconds;
    let last: Answer | null = null;
    const infoAt = (depth: number, selectiveDepth: number, nodes: number): Answer => ({
      depth,
      selectiveDepth,
      nodes: nodes + (host.nodesOfOthers?.() ?? 0),
      milliseconds: host.now() - started,
      lines: this.lines(side),
    });
    let isMate = false;
    this.onPoll = (nodes) => isMate || host.shouldStop(nodes) || host.now() >= deadline;
    this.onReport = (depth, selectiveDepth, nodes) => {
      last = infoAt(depth, selectiveDepth, nodes);
      // the next poll comes after a fixed number of nodes, so what was searched does not depend on the hour
      isMate = budget.mate === true && last.lines[0]?.score.kind === 'mate';
      onInfo?.(last);
    };
    exports.think(
      budget.depth ?? MOST_DEPTH,
      budget.nodes ?? 0,
      request.lines,
      request.plain === true,
    );
    const reached = last as Answer | null;
    if (reached === null) return infoAt(0, 0, 0);
    return {
      ...reached,
      // a single line may be known more deeply by now than when its depth was complete
      lines: this.lines(side),
      nodes: exports.nodesSearched() + (host.nodesOfOthers?.() ?? 0),
      milliseconds: host.now() - started,
    };
  }

  private lines(side: Side): AnswerLine[] {
    const { exports } = this;
    const { code } = rulesetOf(this.kind);
    return Array.from({ length: exports.linesFound() }, (_, line) => ({
      score: readScore(exports.scoreOfLine(line), side),
      moves: Array.from({ length: exports.lengthOfLine(line) }, (_, index) =>
        code(this.adapter.fromSearch(exports.moveOfLine(line, index))),
      ),
    }));
  }
}

function readScore(value: number, side: Side): Score {
  if (Math.abs(value) < MATE_BOUND) return cpScore(side === 0 ? value : 0 - value);
  return mateScore(MATE - Math.abs(value), value > 0 ? side : otherSide(side));
}

/** A string of the compiled search: UTF-16, its length in bytes in the word before it. */
function readText(memory: WebAssembly.Memory, at: number): string {
  const [bytes] = new Uint32Array(memory.buffer.slice(at - 4, at));
  return new TextDecoder('utf-16').decode(memory.buffer.slice(at, at + (bytes ?? 0)));
}
