import { createWriteStream } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { once } from 'node:events';
import { gameInfo } from '@/core/game/info';
import type { GameRecord } from '@/core/game/record';
import type { Ruleset } from '@/core/game/ruleset';
import { mainLine, nodesInOrder, positionsAlong } from '@/core/game/tree';
import { encodeShiftJis } from '@/core/notation/encoding';
import {
  formatKind,
  FORMATS,
  formatOfName,
  lossesIn,
  separatorOf,
  writeGame,
  type Format,
} from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { rulesetOf } from '@/core/rulesets';
import { CommandError, EXIT, usageError } from './exit';
import { sayProblem } from './messages';
import { complain, write } from './print';
import { gamesOf } from './source';

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
              `${source}:${line}:${column}: game ${game ?? 1}: ${await sayProblem(reading.problem)}`,
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
              : (written === 0 ? '' : separatorOf(format)) + writeGame(record, format);
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
  const status = ruleset.status(positions.at(-1)!, positions.slice(0, -1));
  return status.state === 'over' && status.result === record.result ? status.end : null;
}
