import { createInterface } from 'node:readline';
import { createWriteStream } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { once } from 'node:events';
import { perft as countInCore } from '@/core/game/perft';
import { gameInfo } from '@/core/game/info';
import { PositionError, type Ruleset, type Status } from '@/core/game/ruleset';
import { mainLine, nodesInOrder, positionsAlong } from '@/core/game/tree';
import type { GameRecord } from '@/core/game/record';
import type { Playable } from '@/core/game/perft';
import { encodeShiftJis } from '@/core/notation/encoding';
import {
  formatKind,
  FORMATS,
  formatOfName,
  lossesIn,
  writeGame,
  type Format,
} from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { reviewGame, type PositionEvaluation } from '@/core/review/review';
import { signOfNag, VERDICT_NAG } from '@/core/review/verdict';
import {
  DEFAULT_SWEEP,
  sweepSettingsSchema,
  type SweepSettings,
} from '@/core/review/sweep-settings';
import { kindOfPosition, rulesetOf } from '@/core/rulesets';
import { engineVersion, loadSearch, startEngine } from '@/engine/hosts/node';
import { searchPosition } from '@/engine/search-position';
import { talk, type EngineOptions } from '@/engine/stdio';
import { ENGINE_FILES } from './engine-files';
import { CommandError, EXIT, usageError } from './exit';
import type { Options } from './options';
import { sayPositionError, sayProblem } from './messages';
import { gamesOf } from './source';

const print = (text: string): void => void process.stdout.write(`${text}\n`);
const complain = (text: string): void => void process.stderr.write(`bektra: ${text}\n`);

/** Writes even when the reader is slow, so that memory stays bounded. */
async function write(stream: NodeJS.WritableStream, text: string | Uint8Array): Promise<void> {
  if (!stream.write(text)) await once(stream, 'drain');
}

const statusText = (status: Status): string => (status.state === 'over' ? status.end : 'ongoing');

/** `legal`: the legal moves of a position, or of each line of standard input. */
export async function legal(position: string | undefined, json: boolean): Promise<number> {
  if (position === undefined) throw usageError('Say which position, or - for standard input.');
  if (position !== '-') return legalOf(position, json) ? EXIT.done : EXIT.problems;
  let clean = true;
  for await (const line of createInterface({ input: process.stdin, crlfDelay: Infinity }))
    if (line.trim() !== '') clean = legalOf(line, json) && clean;
  return clean ? EXIT.done : EXIT.problems;
}

function legalOf(text: string, json: boolean): boolean {
  const kind = kindOfPosition(text);
  const ruleset = rulesetOf(kind);
  let position: unknown;
  try {
    position = ruleset.start(text.trim());
  } catch (error) {
    if (!(error instanceof PositionError)) throw error;
    complain(`${text.trim()}: ${sayPositionError(error)}`);
    if (json)
      print(JSON.stringify({ position: text.trim(), kind, error: sayPositionError(error) }));
    return false;
  }
  const moves = ruleset
    .moves(position)
    .map((move) => ({ move: ruleset.code(move), text: ruleset.text(position, move) }))
    .sort((a, b) => (a.move < b.move ? -1 : 1));
  const answer = {
    position: text.trim(),
    kind,
    inCheck: ruleset.inCheck(position),
    status: statusText(ruleset.status(position, [])),
    moves,
  };
  if (json) print(JSON.stringify(answer));
  else {
    const state = `${answer.status}${answer.inCheck ? ', in check' : ''}`;
    print(`${moves.length} legal moves (${state})`);
    for (const { move, text: written } of moves) print(`${move}\t${written}`);
  }
  return true;
}

/** `perft`: leaf count by the rules core, or by the search's rules. */
export async function perft(
  position: string | undefined,
  depthText: string | undefined,
  byEngine: boolean,
): Promise<number> {
  const depth = Number(depthText);
  if (position === undefined || !Number.isInteger(depth) || depth < 0 || depth > 20)
    throw usageError('Use: ./bektra perft POSITION DEPTH [--engine]');
  const kind = kindOfPosition(position);
  try {
    const start = rulesetOf(kind).start(position === 'startpos' ? undefined : position);
    const count = byEngine
      ? (await loadSearch(ENGINE_FILES, kind)).perft(rulesetOf(kind).write(start), depth)
      : countInCore(start as Playable, depth);
    print(String(count));
    return EXIT.done;
  } catch (error) {
    if (!(error instanceof PositionError)) throw error;
    throw new CommandError(sayPositionError(error), EXIT.problems);
  }
}

type Target = Format | 'json';

function targetOf(file: string, stated: string | undefined): Target {
  const known = [...FORMATS, 'json'] as const;
  if (stated !== undefined) {
    const format = known.find((candidate) => candidate === stated);
    if (!format) throw usageError(`Unknown format ${stated}; known are ${known.join(', ')}.`);
    return format;
  }
  const named = formatOfName(file) ?? (file.endsWith('.json') ? 'json' : null);
  if (!named) throw usageError(`Which format is ${file} to be? Say so with --to.`);
  return named;
}

/** `convert`: all games of a file in another format; bad games are reported and the good ones kept. */
export async function convert(
  source: string | undefined,
  target: string | undefined,
  from: string | undefined,
  to: string | undefined,
): Promise<number> {
  if (!source || !target)
    throw usageError('Use: ./bektra convert IN OUT [--from FORMAT] [--to FORMAT]');
  const stated = from === undefined ? undefined : (targetOf('-', from) as Format);
  if (source === '-' && !stated) throw usageError('Say the format of standard input with --from.');
  const format = targetOf(target, to);
  const unfinished = `${target}.unfinished-${process.pid}`;
  const stream = target === '-' ? process.stdout : createWriteStream(unfinished);
  const failed = once(stream, 'error').then(([error]) => {
    throw new CommandError(`${target}: ${(error as Error).message}`);
  });
  failed.catch(() => {});
  let problems = 0;
  let written = 0;
  const losses = new Set<string>();
  try {
    await Promise.race([
      failed,
      (async () => {
        for await (const reading of gamesOf(source, stated)) {
          if (!isRead(reading)) {
            const { line, column, game } = reading.problem.place;
            complain(
              `${source}:${line}:${column}: game ${game ?? 1}: ${sayProblem(reading.problem)}`,
            );
            problems++;
            continue;
          }
          const { record } = reading;
          if (format !== 'json' && formatKind(format) !== record.tree.kind)
            throw usageError(`A ${record.tree.kind} game can't be written as ${format}.`);
          if (format !== 'json') lossesIn(record, format).forEach((loss) => losses.add(loss));
          const text =
            format === 'json'
              ? `${JSON.stringify(summaryOf(record))}\n`
              : separated(format, written) + writeGame(record, format);
          await write(
            stream,
            /\.kif$/i.test(target) && format === 'kif' ? encodeShiftJis(text) : text,
          );
          written++;
        }
      })(),
    ]);
    if (target !== '-') {
      stream.end();
      await once(stream, 'finish');
      await rename(unfinished, target);
    }
  } finally {
    if (target !== '-') await rm(unfinished, { force: true });
  }
  if (losses.size > 0) complain(`not held by ${format}: ${[...losses].join(', ')}`);
  if (written === 0 && problems === 0) {
    complain(`${source}: no games found`);
    return EXIT.problems;
  }
  return problems === 0 ? EXIT.done : EXIT.problems;
}

/** What has to stand between two games of a file. */
const separated = (format: Format, written: number): string =>
  written === 0 ? '' : format === 'csa' ? '/\n' : format === 'kif' || format === 'ki2' ? '\n' : '';

function summaryOf({ tree, tags, result, end }: GameRecord) {
  const ruleset = rulesetOf(tree.kind);
  const nodes = [...nodesInOrder(tree)];
  return {
    kind: tree.kind,
    tags: Object.fromEntries(tags.map(({ name, value }) => [name, value])),
    start: tree.start,
    moves: mainLine(tree).map(({ move }) => ruleset.code(move)),
    variations: nodes.reduce((sum, { children }) => sum + Math.max(0, children.length - 1), 0),
    comments: nodes.filter(({ comment, before }) => comment || before).length,
    result,
    end: end ?? endOf(ruleset, { tree, tags, result, end }),
  };
}

/** How the game ended: as its tags say, else as its last position shows. */
function endOf(ruleset: Ruleset, record: GameRecord): string | null {
  const stated = gameInfo(record).end;
  if (stated) return stated;
  const positions = positionsAlong(ruleset, record.tree.start, mainLine(record.tree));
  const status = ruleset.status(positions.at(-1), positions.slice(0, -1));
  return status.state === 'over' && status.result === record.result ? status.end : null;
}

type ReviewOptions = Pick<Options, 'depth' | 'nodes' | 'time' | 'lines' | 'json'>;

function reviewSettings({ depth, nodes, time, lines }: ReviewOptions): SweepSettings {
  const isLimited = [depth, nodes, time].some((limit) => limit !== undefined);
  const limits = isLimited ? { depth, nodes, milliseconds: time } : { nodes: DEFAULT_SWEEP.nodes };
  const parsed = sweepSettingsSchema.safeParse({ ...limits, lines: lines ?? DEFAULT_SWEEP.lines });
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
  let clean = true;
  let games = 0;
  try {
    for await (const reading of gamesOf(file)) {
      if (!isRead(reading)) {
        const { line, column } = reading.problem.place;
        complain(`${file}:${line}:${column}: ${sayProblem(reading.problem)}`);
        clean = false;
        continue;
      }
      games++;
      const { record } = reading;
      const { kind, start } = record.tree;
      const ruleset = rulesetOf(kind);
      const line = mainLine(record.tree);
      const positions = positionsAlong(ruleset, start, line);
      const evaluations: (PositionEvaluation | null)[] = [];
      for (const [ply, position] of positions.entries()) {
        if (ruleset.status(position, []).state === 'over') {
          evaluations.push(null);
          continue;
        }
        const played = line[ply] ? ruleset.code(line[ply].move) : null;
        const root = ruleset.searchRoot(position, positions.slice(0, ply));
        const found = await searchPosition(
          (request) => engine.search(request),
          kind,
          root,
          played,
          settings,
        );
        const [priced] = found.priced?.lines ?? [];
        evaluations.push({
          depth: found.main.depth,
          lines: found.main.lines,
          ...(priced ? { played: priced } : {}),
        });
      }
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
  positions: readonly unknown[],
  { moves, accuracy }: ReturnType<typeof reviewGame>,
): void {
  const { players } = gameInfo(record);
  print(`${players[0].name ?? '?'} – ${players[1].name ?? '?'}  ${record.result}`);
  const line = mainLine(record.tree);
  for (const found of moves) {
    if (!found || found.verdict === 'none') continue;
    const before = positions[found.ply - 1];
    const number = `${ruleset.moveNumber(before)}${ruleset.numbering === 'move' ? (found.side === 0 ? '.' : '…') : ''}`;
    const text = ruleset.text(before, line[found.ply - 1]!.move);
    const better = lineText(ruleset, before, found.betterLine.slice(0, 6));
    const turn = found.isTurningPoint ? '  turning point' : '';
    const cost = found.loss > 0.5 ? `  −${found.loss.toFixed(0)} chance` : '';
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
function lineText(ruleset: Ruleset, start: unknown, codes: readonly string[]): string {
  let position = start;
  return codes
    .map((code) => {
      const move = ruleset.parseCode(code)!;
      const text = ruleset.text(position, move);
      position = ruleset.play(position, move);
      return text;
    })
    .join(' ');
}

/** `engine`: UCI or USI on standard input and output. */
export async function runEngine(game: string | undefined): Promise<number> {
  if (game !== 'chess' && game !== 'shogi') throw usageError('Use: ./bektra engine chess|shogi');
  const version = await engineVersion(ENGINE_FILES, game);
  const open = (options: EngineOptions) => startEngine(ENGINE_FILES, { ...options, kinds: [game] });
  await talk(game, open, process.stdin, process.stdout, version);
  return EXIT.done;
}
