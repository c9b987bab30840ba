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

type ReviewOptions = Pick<Options, 'depth' | 'nodes' | 'time' | 'lines' | 'json'>;

function reviewSettings({ depth, nodes, time, lines }: ReviewOptions): SweepSettings {
  const isLimited = [depth, nodes, time].some((limit) => limit !== undefined);
  const budget = isLimited ? { depth, nodes, milliseconds: time } : { nodes: DEFAULT_SWEEP.nodes };
  const parsed = sweepSettingsSchema.safeParse({ ...budget, lines: lines ?? DEFAULT_SWEEP.lines });
  if (!parsed.success)
    throw usageError('Give one of --depth N, --nodes N and --time MS, and --lines 1 to 8.');
  return parsed.data;
}

/** `review`: every game of a file gone over by the engine, without a database. */
export async function review(file: string | undefined, options: ReviewOptions): Promise<number> {
  if (!file)
    throw usageError('Use: ./bektra review FILE [--depth N | --nodes N | --time MS] [--json]');
  const settings = reviewSettings(options);
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
      const plan = sweepGame(record, settings, 1);
      const { evaluations } = await plan(ask, () => undefined);
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
