import { once } from 'node:events';
import { parentPort } from 'node:worker_threads';
import { LIMITS, limitProblem, type Problem } from '@/core/game/problem';
import type { GameRecord } from '@/core/game/record';
import { mainLine } from '@/core/game/tree';
import { decodeText, isBinary } from '@/core/notation/encoding';
import {
  formatKind,
  formatOfName,
  formatOfText,
  readGames,
  type Format,
} from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { rulesetOf } from '@/core/rulesets';
import type { ImportPart } from '@/server/imports';
import { prepareGame } from '@/server/prepared-game';

/** What the thread is asked: pieces of the file, then to read it from behind so many games. */
export type ImportAsked = { piece: Uint8Array } | { read: { name: string; skip: number } } | 'next';
/** What it answers. After a part it waits to be asked for the next. */
export type ImportTold = { part: ImportPart } | { done: { games: number } } | { failed: Problem };

/** Games of one part, and milliseconds after which one is told with fewer, so that progress is seen. */
const PART = 50;
const PART_MS = 500;

const problemOfFile = (code: string, params: Problem['params'] = {}): Problem => ({
  code,
  params,
  place: { line: 1, column: 1 },
});

/** The ordinary start without moves, names or words is nothing that anybody meant to keep; a position is. */
const isWorthKeeping = ({ tree, tags }: GameRecord): boolean =>
  mainLine(tree).length > 0 || tags.length > 0 || tree.start !== rulesetOf(tree.kind).startText;

function openSource(name: string, bytes: Uint8Array): { text: string; format: Format } | Problem {
  if (bytes.length === 0) return problemOfFile('file.empty');
  if (isBinary(bytes)) return problemOfFile('file.binary');
  const named = formatOfName(name);
  const kind = named ? formatKind(named) : null;
  const text = decodeText(bytes, kind ?? 'shogi');
  const seen = formatOfText(text);
  const format = seen && (named === null || formatKind(seen) !== kind) ? seen : (named ?? seen);
  if (!format) return problemOfFile('file.format');
  return {
    text: kind === formatKind(format) ? text : decodeText(bytes, formatKind(format)),
    format,
  };
}

const port = parentPort!;
const tell = (told: ImportTold): void => port.postMessage(told);

const emptyPart = (): ImportPart => ({ games: [], problems: [], notes: [] });
const sizeOf = ({ games, problems }: ImportPart): number => games.length + problems.length;

async function read(bytes: Uint8Array, name: string, skip: number): Promise<void> {
  const source = openSource(name, bytes);
  if ('code' in source) return tell({ failed: source });
  let seen = 0;
  let part = emptyPart();
  let started = performance.now();
  for (const reading of readGames(source.text, source.format)) {
    if (++seen > LIMITS.gamesPerFile)
      return tell({
        failed: problemOfFile('limit.gamesPerFile', limitProblem('gamesPerFile').params),
      });
    if (seen <= skip) continue;
    if (!isRead(reading)) part.problems.push(reading.problem);
    else if (isWorthKeeping(reading.record)) {
      part.games.push(prepareGame(reading.record));
      part.notes.push(...(reading.notes ?? []));
    } else
      part.problems.push({
        ...problemOfFile('game.empty'),
        place: { line: reading.line, column: 1, game: seen },
      });
    if (sizeOf(part) < PART && performance.now() - started < PART_MS) continue;
    tell({ part });
    await once(port, 'message');
    part = emptyPart();
    started = performance.now();
  }
  if (seen === 0) return tell({ failed: problemOfFile('file.noGames') });
  if (sizeOf(part) > 0) {
    tell({ part });
    await once(port, 'message');
  }
  tell({ done: { games: seen } });
}

const pieces: Uint8Array[] = [];
port.on('message', (asked: ImportAsked) => {
  if (asked === 'next') return;
  if ('piece' in asked) pieces.push(asked.piece);
  else void read(Buffer.concat(pieces.splice(0)), asked.read.name, asked.read.skip);
});
