import { spawn } from 'node:child_process';
import { createInterface } from 'node:readline';
import type { GameKind } from '@/core/game/ruleset';
import { cpScore } from '@/core/game/score';
import { rulesetOf } from '@/core/rulesets';
import type { Answer, AnswerLine, Question } from '@/core/ask/question';
import { LINES_OPTION, PROTOCOLS, readInfo } from '../protocol';
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

/** A program may have much to load, on a machine that is busy. */
const START_MS = 30_000;

/**
 * Starts an external engine and waits until it answers; rejects when it does not, or when an option is not one of its
 * own. It sees nothing of this process's environment but the path.
 */
export async function startExternal({
  kind,
  command,
  options = {},
}: ExternalEngine): Promise<Engine & { options: readonly EngineOption[] }> {
  const protocol = PROTOCOLS[kind];
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
    end(new EngineError(`the program does not answer to ${protocol.hello}`));
  }, START_MS);
  try {
    say(protocol.hello);
    await until(protocol.ok, (line) => {
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
    if (request.fresh) say(protocol.newGame);
    if (request.lines !== linesSet && offersLines) {
      say(`setoption name ${LINES_OPTION} value ${request.lines}`);
      linesSet = request.lines;
    }
    const { game } = request;
    say(
      game
        ? `position ${protocol.setup} ${game.start}${game.moves.length > 0 ? ` moves ${game.moves.join(' ')}` : ''}`
        : `position ${protocol.setup} ${request.root.position}`,
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
      const read = readInfo(protocol, line, side);
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
