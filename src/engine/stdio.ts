import { createInterface } from 'node:readline';
import type { Readable, Writable } from 'node:stream';
import { isDeepStrictEqual } from 'node:util';
import type { Move } from '@/core/game/move';
import type { GameKind, Ruleset, Side, Position } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import type { Answer, Budget } from '@/core/ask/question';
import type { Engine } from './contract';
import { LINES_OPTION, PROTOCOLS, writeInfo, type Protocol } from './protocol';
import { DEFAULT_TABLE_MEGABYTES } from './search-module';

const MOST_LINES = 64;

interface Setup {
  positions: Position[];
}

export interface EngineOptions {
  tableMegabytes: number;
  threads: number;
}

const MOST_THREADS = 16;
const MOST_MEGABYTES = 512;

/**
 * Speaks UCI or USI until `quit` or the end of the input. Unknown words are passed over.
 * @param open starts an engine; called again when an option asks for another one
 */
export async function talk(
  kind: GameKind,
  open: (options: EngineOptions) => Promise<Engine>,
  input: Readable,
  output: Writable,
  version: string,
): Promise<void> {
  const session = new Session(PROTOCOLS[kind], open, version, (line) => output.write(`${line}\n`));
  for await (const line of createInterface({ input, crlfDelay: Infinity }))
    if (!session.obey(line.trim())) return session.end();
  await session.finish();
}

class Session {
  private readonly ruleset: Ruleset;
  private setup: Setup;
  private lines = 1;
  private options: EngineOptions = { tableMegabytes: DEFAULT_TABLE_MEGABYTES, threads: 1 };
  private engine: Promise<Engine> | null = null;
  private fresh = true;
  private searching: { stop: AbortController; done: Promise<void>; endless: boolean } | null = null;

  constructor(
    private readonly protocol: Protocol,
    private readonly open: (options: EngineOptions) => Promise<Engine>,
    private readonly version: string,
    private readonly say: (line: string) => void,
  ) {
    this.ruleset = rulesetOf(protocol.kind);
    this.setup = { positions: [this.ruleset.start()] };
  }

  /** False when the conversation is over. */
  obey(line: string): boolean {
    const [command, ...words] = line.split(/\s+/);
    switch (command) {
      case this.protocol.hello:
        this.say(`id name Bektra ${this.version}`);
        this.say('id author the makers of Bektra');
        this.say(`option name ${LINES_OPTION} type spin default 1 min 1 max ${MOST_LINES}`);
        this.say(
          `option name ${this.protocol.hash} type spin default ${DEFAULT_TABLE_MEGABYTES} min 1 max ${MOST_MEGABYTES}`,
        );
        this.say(`option name Threads type spin default 1 min 1 max ${MOST_THREADS}`);
        this.say(this.protocol.ok);
        return true;
      case 'isready':
        void this.ready().then(
          () => this.say('readyok'),
          (error: unknown) => this.say(`info string engine does not start: ${String(error)}`),
        );
        return true;
      case this.protocol.newGame:
        this.fresh = true;
        return true;
      case 'setoption':
        this.setOption(words.join(' '));
        return true;
      case 'position':
        this.position(words);
        return true;
      case 'go':
        this.go(words);
        return true;
      case 'stop':
        this.searching?.stop.abort();
        return true;
      case 'quit':
        return false;
      default:
        return true;
    }
  }

  /** At the end of the input: a search with a limit may still finish. */
  async finish(): Promise<void> {
    if (this.searching?.endless) this.searching.stop.abort();
    await this.searching?.done;
    await this.engine?.then((engine) => engine.close()).catch(() => undefined);
  }

  async end(): Promise<void> {
    this.searching?.stop.abort();
    await this.finish();
  }

  private ready(): Promise<Engine> {
    return (this.engine ??= this.open(this.options));
  }

  private setOption(text: string): void {
    const match = /^name\s+(\w+)\s+value\s+(\d+)$/i.exec(text);
    if (!match) return;
    const name = match[1]!.toLowerCase().replace(/^usi_/, '');
    const value = Math.max(1, Number(match[2]));
    if (name === 'multipv') this.lines = Math.min(MOST_LINES, value);
    if (name === 'hash') this.reopen({ tableMegabytes: Math.min(MOST_MEGABYTES, value) });
    if (name === 'threads') this.reopen({ threads: Math.min(MOST_THREADS, value) });
  }

  private reopen(change: Partial<EngineOptions>): void {
    this.options = { ...this.options, ...change };
    this.searching?.stop.abort();
    const old = this.engine;
    const over = this.searching?.done;
    this.engine = null;
    void over?.then(() => old).then((engine) => engine?.close());
    if (!over) void old?.then((engine) => engine.close());
  }

  private position(words: readonly string[]): void {
    const at = words.indexOf('moves');
    const setup = (at < 0 ? words : words.slice(0, at)).join(' ');
    const moves = at < 0 ? [] : words.slice(at + 1);
    try {
      const text =
        setup === 'startpos'
          ? undefined
          : setup.replace(new RegExp(`^${this.protocol.setup}\\s+`), '');
      const positions = [this.ruleset.start(text)];
      for (const code of moves)
        positions.push(this.ruleset.play(positions.at(-1)!, this.legal(positions.at(-1)!, code)));
      this.setup = { positions };
    } catch (error) {
      this.say(
        `info string position refused: ${error instanceof Error ? error.message : String(error)}`,
      );
    }
  }

  private legal(position: Position, code: string): Move {
    const move = this.ruleset.parseCode(code);
    if (move === null || !this.ruleset.isLegal(position, move))
      throw new Error(`${code} is not legal`);
    return move;
  }

  private go(words: readonly string[]): void {
    this.searching?.stop.abort();
    const { positions } = this.setup;
    const position = positions.at(-1)!;
    const root = this.ruleset.searchRoot(position, positions.slice(0, -1));
    const stop = new AbortController();
    const at = words.indexOf('searchmoves');
    const only =
      at < 0 ? [] : words.slice(at + 1).filter((word) => this.ruleset.parseCode(word) !== null);
    const budget = this.budget(words, this.ruleset.side(position));
    const request = {
      kind: this.protocol.kind,
      root,
      budget,
      lines: this.lines,
      fresh: this.fresh,
      ...(only.length > 0 ? { only } : {}),
    };
    this.fresh = false;
    const side = this.ruleset.side(position);
    let told: Answer | null = null;
    const tell = (answer: Answer): void => {
      told = answer;
      writeInfo(this.protocol, answer, side).forEach(this.say);
    };
    const done = this.ready()
      .then((engine) => engine.search(request, { signal: stop.signal, onInfo: tell }))
      .then(async (info) => {
        // a depth that was broken off may have found more than the last that was told
        if (!isDeepStrictEqual(info.lines, told?.lines)) tell(info);
        // an infinite search answers only once it is stopped
        if (words.includes('infinite') && !stop.signal.aborted)
          await new Promise((resolve) => stop.signal.addEventListener('abort', resolve));
        const [line] = info.lines;
        if (this.protocol.kind === 'shogi' && words.includes('mate')) {
          const mates = line?.score.kind === 'mate' && line.score.winner === side;
          this.say(`checkmate ${mates ? line.moves.join(' ') : 'timeout'}`);
          return;
        }
        this.say(`bestmove ${line ? line.moves[0]! : this.protocol.noMove}`);
      })
      .catch((error: unknown) => this.say(`info string search failed: ${String(error)}`));
    this.searching = { stop, done, endless: Object.keys(budget).length === 0 };
  }

  private budget(words: readonly string[], side: Side): Budget {
    const value = (name: string): number | undefined => {
      const at = words.indexOf(name);
      const number = at < 0 ? NaN : Number(words[at + 1]);
      return Number.isFinite(number) ? number : undefined;
    };
    const budget: Budget = {};
    const depth = value('depth');
    const nodes = value('nodes');
    if (depth !== undefined) budget.depth = Math.min(126, Math.max(1, depth));
    if (nodes !== undefined) budget.nodes = Math.max(1, nodes);
    const mate = value('mate');
    // UCI asks for a mate in so many moves, USI gives so many milliseconds
    if (mate !== undefined && this.protocol.mateIn === 'moves')
      budget.depth = Math.min(126, Math.max(1, 2 * mate + 1));
    const fixed =
      this.protocol.mateIn === 'plies' ? (mate ?? value('movetime')) : value('movetime');
    const left = value(this.protocol.times[side]);
    const byoyomi = value('byoyomi') ?? 0;
    if (fixed !== undefined) budget.milliseconds = Math.max(1, fixed);
    else if (left !== undefined || byoyomi > 0) {
      const increment = value(this.protocol.increments[side]) ?? 0;
      const share = (left ?? 0) / 30 + increment * 0.7 + byoyomi * 0.8;
      budget.milliseconds = Math.max(1, Math.min(share, (left ?? 0) + byoyomi - 50));
    }
    return budget;
  }
}
