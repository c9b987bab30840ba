import type { Ruleset } from '@/core/game/ruleset';
import { readSettingsText } from '@/core/review/sweep-settings';
import { rulesetOf } from '@/core/rulesets';
import { EngineError, type SearchInfo, type SearchRequest } from '@/engine/contract';
import { startExternal } from '@/engine/hosts/external';
import { readEnginesFile } from '@/server/engines-file';
import { logger } from '@/server/log';
import { forgetEnginesBut, openStudy, recordEngine, recordStudy } from '@/server/studies';
import type { EnginePool } from './engine-pool';

const PROGRESS_MS = 1000;

/** Of what an engine says, what can be played: an external one's word is not taken for it. */
function foundBy(ruleset: Ruleset, position: unknown, info: SearchInfo) {
  const playable = (moves: readonly string[]): string[] => {
    const kept: string[] = [];
    let at = position;
    for (const code of moves) {
      const move = ruleset.parseCode(code);
      if (move === null || !ruleset.isLegal(at, move)) break;
      kept.push(code);
      at = ruleset.play(at, move);
    }
    return kept;
  };
  return {
    depth: Math.min(info.depth, 999),
    nodes: info.nodes,
    milliseconds: Math.round(info.milliseconds),
    lines: info.lines
      .map(({ score, moves }) => ({ score, moves: playable(moves) }))
      .filter(({ moves }) => moves.length > 0),
  };
}

/** Searches one position with our own engine or an external one, and tells of each depth meanwhile. */
export async function runStudy(id: number, pool: EnginePool, signal: AbortSignal): Promise<void> {
  const open = await openStudy(id);
  if (!open) return;
  const { study, game } = open;
  const { tree } = game.record;
  const ruleset = rulesetOf(tree.kind);
  const positions: unknown[] = [ruleset.start(tree.start)];
  for (const code of study.moves)
    positions.push(ruleset.play(positions.at(-1), ruleset.parseCode(code)!));
  const position = positions.at(-1);
  const { lines, ...limits } = readSettingsText(study.settings);
  const request: SearchRequest = {
    kind: tree.kind,
    root: ruleset.searchRoot(position, positions.slice(0, -1)),
    game: { start: ruleset.write(positions[0]), moves: study.moves },
    limits,
    lines,
    fresh: true,
  };
  if (!(await recordStudy(id, { state: 'running' }))) return;

  let told = performance.now();
  const tell = (info: SearchInfo): void => {
    if (performance.now() - told < PROGRESS_MS) return;
    told = performance.now();
    recordStudy(id, foundBy(ruleset, position, info)).catch((error: unknown) =>
      logger('study').warn({ err: error, study: id }, 'progress was not kept'),
    );
  };
  const searched =
    study.engine === null
      ? pool.search(request, signal, 'asked', tell)
      : searchExternally(study.engine, request, signal, tell);
  try {
    const info = await searched;
    if (!signal.aborted)
      await recordStudy(id, { ...foundBy(ruleset, position, info), state: 'done' });
  } catch (error) {
    // what was called off need not end well
    if (!signal.aborted) throw error;
  }
}

/** How long after its time an external engine may still answer. */
const PATIENCE_MS = 10_000;

async function searchExternally(
  name: string,
  request: SearchRequest,
  signal: AbortSignal,
  onInfo: (info: SearchInfo) => void,
): Promise<SearchInfo> {
  const configured = readEnginesFile().find((engine) => engine.name === name);
  if (!configured) throw new EngineError(`the server no longer offers ${name}`);
  const engine = await startExternal(configured);
  const end = (): void => engine.close();
  const timer = setTimeout(end, (request.limits.milliseconds ?? 0) + PATIENCE_MS);
  signal.addEventListener('abort', end, { once: true });
  try {
    return await engine.search(request, { onInfo });
  } finally {
    clearTimeout(timer);
    signal.removeEventListener('abort', end);
    engine.close();
  }
}

/** What people are told of an engine that failed. */
export const sayEngineError = (error: unknown): string =>
  error instanceof EngineError ? error.message : 'the engine failed';

/** Starts each external engine once, so that people see what it offers or why it can't be used. */
export async function tryExternalEngines(): Promise<void> {
  const log = logger('engines');
  let configured;
  try {
    configured = readEnginesFile();
  } catch (error) {
    log.error({ err: error }, 'external engines are not used');
    return;
  }
  for (const engine of configured) {
    const tried = await startExternal({ ...engine, options: {} }).then(
      async (bare) => {
        bare.close();
        // the options of the file come second, so that what is offered is known even where they do not fit
        const problem = await startExternal(engine).then(
          (set) => (set.close(), null),
          sayEngineError,
        );
        return { options: [...bare.options], problem };
      },
      (error: unknown) => ({ options: [], problem: sayEngineError(error) }),
    );
    await recordEngine({ name: engine.name, ...tried });
    if (tried.problem) log.warn({ engine: engine.name, problem: tried.problem }, 'engine fails');
    else log.info({ engine: engine.name }, 'engine ready');
  }
  await forgetEnginesBut(configured.map(({ name }) => name));
}
