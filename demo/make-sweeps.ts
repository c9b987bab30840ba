// Goes over games of the demo bases and writes what each position is worth into their files: ./bektra demo sweeps. The same every time.
import { existsSync } from 'node:fs';
import { appendFile, mkdir, readFile, writeFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { gunzipSync, gzipSync } from 'node:zlib';
import type { Ask } from '@/core/ask/question';
import { sweepGame } from '@/core/ask/sweep-game';
import type { GameRecord } from '@/core/game/record';
import type { StatedScore } from '@/core/game/score';
import { applySteps, type Step } from '@/core/game/steps';
import { mainLine } from '@/core/game/tree';
import { readGames, separatorOf, writeGame } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { rulesetOf } from '@/core/rulesets';
import { startEngine } from '@/engine/hosts/node';
import { EnginePool } from '@/worker/engine-pool';
import { BASES, baseFile, baseFormat, type DemoBase } from './base-scenario';

/** Of the games of a base, one in so many is gone over. */
const EVERY = { chess: 5, shogi: 3 } as const;
/** Nodes a position on average. */
const AVERAGE = 20_000;
const TABLE_MEGABYTES = 2;

/** @param parts a folder for what has been found, so that an interrupted run goes on behind it */
export async function makeDemoSweeps(root: string, parts: string, only?: string): Promise<void> {
  await mkdir(parts, { recursive: true });
  for (const base of BASES) {
    if (only !== undefined && base.file !== only) continue;
    const path = join(root, 'demo/bases', baseFile(base));
    const format = baseFormat(base);
    const text = gunzipSync(await readFile(path)).toString();
    const records = [...readGames(text, format)].filter(isRead).map(({ record }) => record);
    const found = await goneOver(root, join(parts, `${base.file}.jsonl`), base, records);
    const games = records.map((record, game) =>
      writeGame(withWorth(record, found.get(game) ?? []), format),
    );
    await writeFile(path, gzipSync(games.join(separatorOf(format)), { level: 9 }));
  }
}

/** What the positions of a game are worth, by ply from the start; null where nothing was searched. */
type Worth = readonly (StatedScore | null)[];

/** What was found of games by their places, by this run or by one before it. */
async function goneOver(
  root: string,
  path: string,
  { file, kind }: DemoBase,
  records: readonly GameRecord[],
): Promise<Map<number, Worth>> {
  const found = new Map<number, Worth>();
  const written = existsSync(path) ? await readFile(path, 'utf8') : '';
  // what was being written when a run ended has no end of line
  const whole = written.slice(0, written.lastIndexOf('\n') + 1);
  for (const line of whole.split('\n').slice(0, -1)) {
    const { game, worth } = JSON.parse(line) as { game: number; worth: Worth };
    found.set(game, worth);
  }
  await writeFile(path, whole);
  const left = records
    .map((record, game) => ({ record, game }))
    .filter(({ game }) => game % EVERY[kind] === 0 && !found.has(game));
  const total = found.size + left.length;
  const files = {
    modules: join(root, 'dist/engine'),
    thread: join(root, 'dist/engine-thread.mjs'),
  };
  const options = { kinds: [kind], tableMegabytes: TABLE_MEGABYTES };
  const pool = new EnginePool(
    await Promise.all(
      Array.from({ length: availableParallelism() }, () => startEngine(files, options)),
    ),
  );
  const ask = pool.askOf(new AbortController().signal, 'batch');
  const lane = async (): Promise<void> => {
    for (let next = left.shift(); next; next = left.shift()) {
      const worth = await worthOf(next.record, ask);
      found.set(next.game, worth);
      await appendFile(path, `${JSON.stringify({ game: next.game, worth })}\n`);
      process.stdout.write(`${file}: ${found.size} of ${total} games\n`);
    }
  };
  try {
    await Promise.all(Array.from({ length: pool.size }, lane));
  } finally {
    pool.close();
  }
  return found;
}

/** Where the best move was played, a position is worth what that leads to, which was looked at from one move further on. */
async function worthOf(record: GameRecord, ask: Ask): Promise<Worth> {
  const ruleset = rulesetOf(record.tree.kind);
  const swept = await sweepGame(record, { average: { nodes: AVERAGE } })(ask, () => undefined);
  const line = mainLine(record.tree);
  const worth: (StatedScore | null)[] = [];
  for (const [ply, found] of [...swept.evaluations().entries()].reverse()) {
    const [best] = found?.lines ?? [];
    const next = worth[ply + 1];
    const isBest = line[ply] !== undefined && best?.moves[0] === ruleset.code(line[ply].move);
    const score = isBest && next?.score.kind === 'cp' ? next.score : best?.score;
    worth[ply] = found && score ? { score, depth: found.depth } : null;
  }
  return worth;
}

/** The game with its evaluations, in place of those that it had. */
const withWorth = (record: GameRecord, worth: Worth): GameRecord =>
  applySteps(
    record,
    mainLine(record.tree).flatMap(({ id, evaluation }, index): Step[] => {
      const value = worth[index + 1] ?? undefined;
      return value === undefined && evaluation === undefined
        ? []
        : [{ type: 'annotate', node: id, field: 'evaluation', value }];
    }),
  );
