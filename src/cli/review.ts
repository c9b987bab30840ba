import { exactFirst } from '@/core/ask/exact';
import type { Ask } from '@/core/ask/question';
import { sweepGame } from '@/core/ask/sweep-game';
import { gameInfo } from '@/core/game/info';
import type { GameRecord } from '@/core/game/record';
import type { Problem } from '@/core/game/problem';
import type { Position, Ruleset } from '@/core/game/ruleset';
import { mainLine, positionsAlong } from '@/core/game/tree';
import { walk } from '@/core/game/walk';
import { isRead, type Reading } from '@/core/notation/reading';
import { wholeLoss } from '@/core/review/chance';
import type { PositionEvaluation } from '@/core/review/evaluation';
import { findingsFrom } from '@/core/review/findings';
import type { Findings } from '@/core/review/review';
import { summaryOf } from '@/core/review/summary';
import {
  DEFAULT_SWEEP,
  settingsText,
  SWEEP_PRESETS,
  sweepSettingsSchema,
  type SweepSettings,
} from '@/core/review/sweep-settings';
import { signOfNag, VERDICT_NAG } from '@/core/review/verdict';
import { rulesetOf } from '@/core/rulesets';
import { EndingFiles } from '@/engine/hosts/ending-files';
import { engineVersion, startEngine } from '@/engine/hosts/node';
import { endingsFolder } from '@/server/endings';
import { EnginePool } from '@/worker/engine-pool';
import { ENGINE_FILES } from './engine-files';
import { CommandError, EXIT, usageError } from './exit';
import { sayProblem } from './messages';
import type { Options } from './options';
import { complain, print } from './print';
import { toFile, toStandardOutput } from './review-output';
import { gamesOf } from './source';

type ReviewOptions = Pick<
  Options,
  'preset' | 'depth' | 'nodes' | 'time' | 'lines' | 'json' | 'jobs' | 'out' | 'resume'
>;

const LINES = 3;

/** An effort to distribute; or, where a depth or a number of lines is given, every position alike. */
function reviewSettings({ preset, depth, nodes, time, lines }: ReviewOptions): SweepSettings {
  const limits = {
    nodes: preset === undefined ? nodes : SWEEP_PRESETS[preset],
    milliseconds: time,
  };
  const isAlike = depth !== undefined || lines !== undefined;
  const isOne = [preset, depth, nodes, time].filter((limit) => limit !== undefined).length === 1;
  const parsed = sweepSettingsSchema.safeParse(
    isAlike ? { ...limits, depth, lines: lines ?? LINES } : { average: limits },
  );
  if (!isOne || !parsed.success)
    throw usageError(
      'Give one of --preset quick|standard|deep, --nodes N, --time MS and --depth N, and --lines 1 to 8.',
    );
  return parsed.data;
}

const isUnlimited = ({ preset, depth, nodes, time, lines }: ReviewOptions): boolean =>
  [preset, depth, nodes, time, lines].every((option) => option === undefined);

const USE =
  'Use: ./bektra review FILE [--preset quick|standard|deep | --nodes N | --time MS | --depth N] [--lines N] [--jobs N] [--json [--out FILE [--resume]]]';

/** `review`: every game of a file gone over by the engine, without a database. */
export async function review(file: string | undefined, options: ReviewOptions): Promise<number> {
  const { json = false, jobs = 1, out, resume = false } = options;
  if (!file || (out !== undefined && !json) || (resume && out === undefined)) throw usageError(USE);
  const settings = isUnlimited(options) ? DEFAULT_SWEEP : reviewSettings(options);
  const output = out === undefined ? toStandardOutput : await toFile(out, settings, resume);
  const engines = Array.from({ length: jobs }, () => startEngine(ENGINE_FILES));
  const pool = new EnginePool(await Promise.all(engines));
  const tables = new EndingFiles(endingsFolder());
  const ask = exactFirst(pool.askOf(new AbortController().signal, 'batch'), tables.look);
  let clean = true;
  let games = 0;

  const say = async (found: Found): Promise<void> => {
    if ('problem' in found) {
      const { line, column } = found.problem.place;
      complain(`${file}:${line}:${column}: ${await sayProblem(found.problem)}`);
      clean = false;
    } else if (!json) printReview(found.record, found.findings);
    if (json) await output.write(lineOf(found, settings));
  };
  // so many games at a time that no engine waits for one to end; what comes of them is said in their order
  const underWay: Promise<Found>[] = [];
  try {
    for await (const reading of gamesOf(file)) {
      games++;
      if (games <= output.done) continue;
      const found = goOver(games, reading, settings, ask);
      found.catch(() => undefined);
      underWay.push(found);
      if (underWay.length > jobs) await say(await underWay.shift()!);
    }
    for (const found of underWay) await say(await found);
  } finally {
    pool.close();
    tables.close();
    await output.close();
  }
  if (games === 0) throw new CommandError(`${file}: no games found`, EXIT.problems);
  return clean ? EXIT.done : EXIT.problems;
}

/** What came of a game; `game`: its place in the file, from 1. */
type Found = { game: number } & (
  | { problem: Problem }
  | {
      record: GameRecord;
      engine: string;
      evaluations: readonly (PositionEvaluation | null)[];
      findings: Findings;
    }
);

async function goOver(
  game: number,
  reading: Reading,
  settings: SweepSettings,
  ask: Ask,
): Promise<Found> {
  if (!isRead(reading)) return { game, problem: reading.problem };
  const { record } = reading;
  const evaluations = (await sweepGame(record, settings)(ask, () => undefined)).evaluations();
  const { findings } = findingsFrom(record, evaluations);
  const engine = await engineVersion(ENGINE_FILES, record.tree.kind);
  return { game, record, engine, evaluations, findings };
}

function lineOf(found: Found, settings: SweepSettings): object {
  const { game } = found;
  const made = { game, settings: settingsText(settings) };
  if ('problem' in found) return { ...made, problem: found.problem };
  const { record, engine, evaluations, findings } = found;
  const { kind } = record.tree;
  return { ...made, kind, engine, ...findings, summary: summaryOf(findings), evaluations };
}

function printReview(record: GameRecord, { moves, accuracy }: Findings): void {
  const { players } = gameInfo(record);
  const { kind, start } = record.tree;
  const ruleset = rulesetOf(kind);
  const positions = positionsAlong(ruleset, start, mainLine(record.tree));
  print(`${players[0].name ?? '?'} – ${players[1].name ?? '?'}  ${record.result}`);
  const line = mainLine(record.tree);
  for (const found of moves) {
    if (!found || found.verdict === 'none') continue;
    const before = positions[found.ply - 1]!;
    const number = `${ruleset.moveNumber(before)}${ruleset.numbering === 'move' ? (found.side === 0 ? '.' : '…') : ''}`;
    const text = ruleset.text(before, line[found.ply - 1]!.move);
    const better = lineText(ruleset, before, found.betterLine.slice(0, 6));
    const turn = found.isTurningPoint ? '  turning point' : '';
    const whole = wholeLoss(found.loss);
    const cost = whole > 0 ? `  −${whole} chance` : '';
    print(
      `${number} ${text} ${signOfNag(VERDICT_NAG[found.verdict])}${cost}${better ? `  better: ${better}` : ''}${turn}`,
    );
  }
  accuracy.forEach(({ value, error, moves: count }, side) => {
    const within = error === null ? '' : ` ± ${error.toFixed(1)}`;
    const figure = value === null ? '–' : `${value.toFixed(1)}${within}`;
    print(`${ruleset.sides[side]}: accuracy ${figure} (${count} moves)`);
  });
}

/** A line of codes in the game's notation. */
const lineText = (ruleset: Ruleset, start: Position, codes: readonly string[]): string =>
  walk(ruleset, start, codes)
    .map(({ before, move }) => ruleset.text(before, move))
    .join(' ');
