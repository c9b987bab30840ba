import { sweepGame } from '@/core/ask/sweep-game';
import { gameInfo } from '@/core/game/info';
import type { GameRecord } from '@/core/game/record';
import type { Ruleset, Position } from '@/core/game/ruleset';
import { mainLine, positionsAlong } from '@/core/game/tree';
import { walk } from '@/core/game/walk';
import { isRead } from '@/core/notation/reading';
import { wholeLoss } from '@/core/review/chance';
import { reviewGame } from '@/core/review/review';
import {
  DEFAULT_SWEEP,
  SWEEP_PRESETS,
  sweepSettingsSchema,
  type SweepSettings,
} from '@/core/review/sweep-settings';
import { signOfNag, VERDICT_NAG } from '@/core/review/verdict';
import { rulesetOf } from '@/core/rulesets';
import { askOf } from '@/engine/contract';
import { engineVersion, startEngine } from '@/engine/hosts/node';
import { ENGINE_FILES } from './engine-files';
import { CommandError, EXIT, usageError } from './exit';
import { sayProblem } from './messages';
import type { Options } from './options';
import { complain, print } from './print';
import { gamesOf } from './source';

type ReviewOptions = Pick<Options, 'preset' | 'depth' | 'nodes' | 'time' | 'lines' | 'json'>;

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

/** `review`: every game of a file gone over by the engine, without a database. */
export async function review(file: string | undefined, options: ReviewOptions): Promise<number> {
  if (!file)
    throw usageError(
      'Use: ./bektra review FILE [--preset quick|standard|deep | --nodes N | --time MS | --depth N] [--lines N] [--json]',
    );
  const settings = isUnlimited(options) ? DEFAULT_SWEEP : reviewSettings(options);
  const engine = await startEngine(ENGINE_FILES);
  const ask = askOf(engine, new AbortController().signal);
  let clean = true;
  let games = 0;
  try {
    for await (const reading of gamesOf(file)) {
      if (!isRead(reading)) {
        const { line, column } = reading.problem.place;
        complain(`${file}:${line}:${column}: ${await sayProblem(reading.problem)}`);
        clean = false;
        continue;
      }
      games++;
      const { record } = reading;
      const { kind, start } = record.tree;
      const ruleset = rulesetOf(kind);
      const line = mainLine(record.tree);
      const positions = positionsAlong(ruleset, start, line);
      const plan = sweepGame(record, settings);
      const evaluations = (await plan(ask, () => undefined)).evaluations();
      const result = reviewGame(
        ruleset,
        positions,
        line.map(({ move }) => move),
        evaluations,
      );
      const version = await engineVersion(ENGINE_FILES, kind);
      if (options.json)
        print(JSON.stringify({ kind, engine: version, settings, ...result, evaluations }));
      else printReview(ruleset, record, positions, result);
    }
  } finally {
    engine.close();
  }
  if (games === 0 && clean) throw new CommandError(`${file}: no games found`, EXIT.problems);
  return clean ? EXIT.done : EXIT.problems;
}

function printReview(
  ruleset: Ruleset,
  record: GameRecord,
  positions: readonly Position[],
  { moves, accuracy }: ReturnType<typeof reviewGame>,
): void {
  const { players } = gameInfo(record);
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
  accuracy.forEach(({ value, moves: count }, side) =>
    print(
      `${ruleset.sides[side]}: accuracy ${value === null ? '–' : value.toFixed(1)} (${count} moves)`,
    ),
  );
}

/** A line of codes in the game's notation. */
const lineText = (ruleset: Ruleset, start: Position, codes: readonly string[]): string =>
  walk(ruleset, start, codes)
    .map(({ before, move }) => ruleset.text(before, move))
    .join(' ');
