import { CalledOff, type Answer, type Ask, type Question } from '@/core/ask/question';
import type { GameKind, Ruleset, Position } from '@/core/game/ruleset';
import { walk } from '@/core/game/walk';
import { readSearchText } from '@/core/review/sweep-settings';
import { rulesetOf } from '@/core/rulesets';
import { EngineError } from '@/engine/contract';
import { startExternal } from '@/engine/hosts/external';
import { readEnginesFile } from '@/server/engines-file';
import { logger } from '@/server/log';
import type { StoredAnswer } from '@/server/schema';
import { openAsk, recordAsk } from '@/server/asks';
import type { EnginePool } from './engine-pool';

const PROGRESS_MS = 1000;

/** Of what an engine says, what can be played: an external one's word is not taken for it. */
function playable(ruleset: Ruleset, position: Position, answer: Answer): StoredAnswer {
  const { depth, nodes, milliseconds } = answer;
  return {
    depth: Math.min(depth, 999),
    nodes,
    milliseconds: Math.round(milliseconds),
    lines: answer.lines
      .map(({ score, moves }) => ({
        score,
        moves: walk(ruleset, position, moves).map(({ code }) => code),
      }))
      .filter(({ moves }) => moves.length > 0),
  };
}

/** Searches one position with our own engine or an external one, and tells of each depth meanwhile. */
export async function runStudy(
  id: number,
  pool: EnginePool,
  versionOf: (kind: GameKind) => string,
  signal: AbortSignal,
): Promise<void> {
  const open = await openAsk('study', id);
  if (!open) return;
  const { ask, game } = open;
  const { tree } = game.record;
  const { moves } = ask.position!;
  const ruleset = rulesetOf(tree.kind);
  const start = ruleset.start(tree.start);
  const way = walk(ruleset, start, moves);
  const position = way.at(-1)?.after ?? start;
  const { lines, ...budget } = readSearchText(ask.settings);
  const question: Question = {
    kind: tree.kind,
    root: ruleset.searchRoot(
      position,
      way.map(({ before }) => before),
    ),
    game: { start: ruleset.write(start), moves },
    budget,
    lines,
    fresh: true,
  };
  const version = ask.engine === null ? versionOf(tree.kind) : null;
  if (!(await recordAsk(id, { state: 'running', version }))) return;

  let told = performance.now();
  const tell = (answer: Answer): void => {
    if (performance.now() - told < PROGRESS_MS) return;
    told = performance.now();
    recordAsk(id, { answer: playable(ruleset, position, answer) }).catch((error: unknown) =>
      logger('study').warn({ err: error, study: id }, 'progress was not kept'),
    );
  };
  const answering =
    ask.engine === null ? pool.askOf(signal, 'position') : externalAsk(ask.engine, signal);
  const answer = playable(ruleset, position, await answering(question, tell));
  await recordAsk(id, { state: 'done', done: 1, answer });
}

/** How long after its time an external engine may still answer. */
const PATIENCE_MS = 10_000;

/** What puts one question to an external engine, which is started for it and ended after it. */
const externalAsk =
  (name: string, signal: AbortSignal): Ask =>
  async (question, onDepth) => {
    const configured = readEnginesFile().find((engine) => engine.name === name);
    if (!configured) throw new EngineError(`the server no longer offers ${name}`);
    const engine = await startExternal(configured);
    const end = (): void => engine.close();
    const timer = setTimeout(end, (question.budget.milliseconds ?? 0) + PATIENCE_MS);
    signal.addEventListener('abort', end, { once: true });
    try {
      return await engine.search(question, onDepth ? { onInfo: onDepth } : {});
    } catch (error) {
      // what was called off need not end well
      throw signal.aborted ? new CalledOff() : error;
    } finally {
      clearTimeout(timer);
      signal.removeEventListener('abort', end);
      engine.close();
    }
  };
