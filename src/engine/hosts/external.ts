import { spawn } from 'node:child_process';
import { createInterface } from 'node:readline';
import type { GameKind, Side } from '@/core/game/ruleset';
import { otherSide } from '@/core/game/ruleset';
import { cpScore, mateScore, type Score } from '@/core/game/score';
import { rulesetOf } from '@/core/rulesets';
import type { Answer, AnswerLine, Question } from '@/core/ask/question';
import { EngineError, type Engine } from '../contract';
import { optionProblems, readOption, type EngineOption } from '@/core/notation/engine-options';

/** A program that speaks UCI or USI. */
export interface ExternalEngine {
  kind: GameKind;
  /** The executable and its arguments; no shell is involved. */
  command: readonly [string, ...string[]];
  /** Options set before the first search, by name. */
  options?: Readonly<Record<string, string>>;
}

const WORDS = {
  chess: { hello: 'uci', ok: 'uciok', newGame: 'ucinewgame', setup: 'fen', moves: 2 },
  shogi: { hello: 'usi', ok: 'usiok', newGame: 'usinewgame', setup: 'sfen', moves: 1 },
} as const;

const START_MS = 10_000;

/** How an engine is told in how many lines to search. */
const LINES_OPTION = 'MultiPV';

/**
 * Starts an external engine and waits until it answers; rejects when it does not, or when an option is not one of its
 * own. It sees nothing of this process's environment but the path.
 */
export async function startExternal({
  kind,
  command,
  options = {},
}: ExternalEngine): Promise<Engine & { options: readonly EngineOption[] }> {
  const words = WORDS[kind];
  const [file, ...args] = command;
  const child = spawn(file, args, {
    stdio: ['pipe', 'pipe', 'ignore'],
    env: { PATH: process.env.PATH, NODE_ENV: process.env.NODE_ENV },
  });
  let failed: Error | null = null;
  let hear: (line: string) => void = () => {};
  let fail: (error: Error) => void = () => {};
  const end = (error: Error): void => {
    failed = error;
    fail(error);
  };
  child.on('error', ({ code }: NodeJS.ErrnoException) =>
    end(new EngineError(`the program can't be started (${code})`)),
  );
  child.on('exit', (code, signal) =>
    end(new EngineError(`the program has ended (${signal ?? code})`)),
  );
  child.stdin.on('error', () => end(new EngineError('the program does not listen')));
  createInterface({ input: child.stdout }).on('line', (line) => hear(line.trim()));
  const say = (line: string): void => void child.stdin.write(`${line}\n`);

  /** Resolves with the first line that begins with a word. */
  function until(word: string, onLine: (line: string) => void = () => {}): Promise<string> {
    return new Promise((resolve, reject) => {
      if (failed) return reject(failed);
      fail = reject;
      hear = (line) => {
        if (line === word || line.startsWith(`${word} `)) resolve(line);
        else onLine(line);
      };
    });
  }

  const offered: EngineOption[] = [];
  const timer = setTimeout(() => {
    child.kill('SIGKILL');
    end(new EngineError(`the program does not answer to ${words.hello}`));
  }, START_MS);
  try {
    say(words.hello);
    await until(words.ok, (line) => {
      const option = readOption(line);
      if (option) offered.push(option);
    });
    const problems = optionProblems(options, offered);
    if (problems.length > 0) throw new EngineError(problems.join('; '));
    for (const [name, value] of Object.entries(options))
      say(`setoption name ${name} value ${value}`);
    say('isready');
    await until('readyok');
  } catch (error) {
    child.kill('SIGKILL');
    throw error;
  } finally {
    clearTimeout(timer);
  }

  const offersLines = offered.some(({ name }) => name === LINES_OPTION);
  let linesSet = 1;
  async function run(
    request: Question,
    { onInfo, signal }: Parameters<Engine['search']>[1] = {},
  ): Promise<Answer> {
    const ruleset = rulesetOf(kind);
    const side = ruleset.side(ruleset.start(request.root.position));
    if (request.fresh) say(words.newGame);
    if (request.lines !== linesSet && offersLines) {
      say(`setoption name ${LINES_OPTION} value ${request.lines}`);
      linesSet = request.lines;
    }
    const { game } = request;
    say(
      game
        ? `position ${words.setup} ${game.start}${game.moves.length > 0 ? ` moves ${game.moves.join(' ')}` : ''}`
        : `position ${words.setup} ${request.root.position}`,
    );
    const stop = (): void => say('stop');
    signal?.addEventListener('abort', stop, { once: true });
    let info: Answer = { depth: 0, selectiveDepth: 0, nodes: 0, milliseconds: 0, lines: [] };
    const lines: AnswerLine[] = [];
    let gathered: Omit<Answer, 'lines'> | null = null;
    const wanted = Math.min(
      offersLines ? request.lines : 1,
      request.only?.length || Infinity,
      ruleset.moves(ruleset.start(request.root.position)).length,
    );
    /** Keeps the lines of a depth, as many as came, and tells of them. */
    const complete = (): void => {
      if (!gathered) return;
      info = { ...gathered, lines: [...lines] };
      gathered = null;
      onInfo?.(info);
    };
    say(goLine(request));
    if (signal?.aborted) stop();
    const answer = await until('bestmove', (line) => {
      const read = readInfo(line, side, kind);
      if (!read) return;
      // a first line begins the next depth: an engine need not give as many as it was asked for
      if (read.index === 0) {
        complete();
        lines.length = 0;
      }
      if (read.index > lines.length) return;
      lines[read.index] = read.line;
      gathered = read.info;
      if (lines.length === wanted) complete();
    }).finally(() => signal?.removeEventListener('abort', stop));
    complete();
    const best = answer.split(' ')[1];
    const [first] = info.lines;
    if (request.lines === 1 && best && first?.moves[0] !== best && ruleset.parseCode(best) !== null)
      return { ...info, lines: [{ score: first?.score ?? cpScore(0), moves: [best] }] };
    return info;
  }

  let previous: Promise<unknown> = Promise.resolve();
  return {
    options: offered,
    search(request, asked) {
      const result = previous.then(() => run(request, asked));
      previous = result.catch(() => undefined);
      return result;
    },
    close() {
      end(new EngineError('the engine was closed'));
      child.kill('SIGKILL');
    },
  };
}

function goLine({ budget, only }: Question): string {
  const parts = ['go'];
  if (budget.depth !== undefined) parts.push('depth', String(budget.depth));
  if (budget.nodes !== undefined) parts.push('nodes', String(budget.nodes));
  if (budget.milliseconds !== undefined) parts.push('movetime', String(budget.milliseconds));
  if (parts.length === 1) parts.push('infinite');
  if (only && only.length > 0) parts.push('searchmoves', ...only);
  return parts.join(' ');
}

/** What an `info` line tells of a line, or null where it tells of none: a bound is no score. */
function readInfo(
  text: string,
  side: Side,
  kind: GameKind,
): { index: number; line: AnswerLine; info: Omit<Answer, 'lines'> } | null {
  const words = text.split(/\s+/);
  if (words[0] !== 'info') return null;
  const after = (word: string): number => {
    const at = words.indexOf(word);
    return at < 0 ? NaN : Number(words[at + 1]);
  };
  const pv = words.indexOf('pv');
  const scored = words.indexOf('score');
  if (pv < 0 || scored < 0 || words.includes('lowerbound') || words.includes('upperbound'))
    return null;
  const score = readScore(words[scored + 1], Number(words[scored + 2]), side, kind);
  const moves = words.slice(pv + 1);
  if (!score || moves.length === 0) return null;
  return {
    index: (after('multipv') || 1) - 1,
    line: { score, moves },
    info: {
      depth: after('depth') || 0,
      selectiveDepth: after('seldepth') || after('depth') || 0,
      nodes: after('nodes') || 0,
      milliseconds: after('time') || 0,
    },
  };
}

function readScore(
  unit: string | undefined,
  value: number,
  side: Side,
  kind: GameKind,
): Score | null {
  if (!Number.isFinite(value)) return null;
  if (unit === 'cp') return cpScore(side === 0 ? value : 0 - value);
  if (unit !== 'mate') return null;
  // UCI counts moves, USI plies
  const count = Math.abs(value);
  const wins = value > 0;
  const plies = WORDS[kind].moves === 1 ? count : wins ? 2 * count - 1 : 2 * count;
  return mateScore(plies, wins ? side : otherSide(side));
}
