import { decodeText, isBinary } from '@/core/notation/encoding';
import {
  formatKind,
  formatOfName,
  formatOfText,
  readGames,
  type Format,
} from '@/core/notation/formats';
import { rulesetOf } from '@/core/rulesets';
import { isRead } from '@/core/notation/reading';
import { LIMITS, type Problem } from '@/core/game/problem';
import type { GameRecord } from '@/core/game/record';
import { mainLine } from '@/core/game/tree';
import { finishImport, openImport, storePart, type ImportPart } from '@/server/imports';
import { logger } from '@/server/log';

/** Games stored in one transaction. */
const PART = 50;

const problemOfFile = (code: string, params: Problem['params'] = {}): Problem => ({
  code,
  params,
  place: { line: 1, column: 1 },
});

/** Reads an imported file and stores its games part by part; taken up again, it goes on behind the last part. */
export async function runImport(id: number, signal: AbortSignal): Promise<void> {
  const row = await openImport(id);
  if (!row) return;
  const source = openSource(row.name, row.bytes);
  if ('code' in source) return finishImport(row, 'failed', source);
  const started = performance.now();
  let seen = 0;
  let part: ImportPart = { records: [], problems: [] };
  for (const reading of readGames(source.text, source.format)) {
    if (++seen <= row.read) continue;
    if (seen > LIMITS.gamesPerFile)
      return finishImport(
        row,
        'failed',
        problemOfFile('limit.games', { most: LIMITS.gamesPerFile }),
      );
    if (!isRead(reading)) part.problems.push(reading.problem);
    else if (isWorthKeeping(reading.record)) part.records.push(reading.record);
    else
      part.problems.push({
        ...problemOfFile('game.empty'),
        place: { line: reading.line, column: 1, game: seen },
      });
    if (part.records.length + part.problems.length < PART) continue;
    if (signal.aborted || !(await storePart(row, part))) return;
    part = { records: [], problems: [] };
  }
  if (seen === 0) return finishImport(row, 'failed', problemOfFile('file.noGames'));
  if (part.records.length + part.problems.length > 0 && !(await storePart(row, part))) return;
  await finishImport(row, 'done');
  logger('import').info(
    { import: id, games: seen, wall: performance.now() - started },
    'import done',
  );
}

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
