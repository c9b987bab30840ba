import { LIMITS, limitProblem, ReadError } from '../../game/problem';
import { tagLimit, type GameRecord, type Tag } from '../../game/record';
import { PositionError } from '../../game/ruleset';
import { emptyTree } from '../../game/tree';
import { readFen, writeFen } from '../../chess/fen';
import { oneByLine, readPlaced, type LineFormat } from '../line-stream';

/** An operation of an EPD line: its opcode and operands, quotes taken off. */
export interface EpdOperation {
  opcode: string;
  operands: string[];
}

/** Tags that hold an operation are named so: a name that a PGN file can hold. */
const PREFIX = 'EPD_';

const OPCODE = /[A-Za-z][A-Za-z0-9_]*/y;
const OPERAND = /"((?:[^"\\]|\\[^])*)"|([^\s";]+)/y;

/** Reads the operations behind the four fields; @throws ReadError at what is no operation */
export function readOperations(text: string, column = 1): EpdOperation[] {
  const operations: EpdOperation[] = [];
  let at = 0;
  const skipSpace = (): void => {
    while (at < text.length && text.charCodeAt(at) <= 32) at++;
  };
  const take = (pattern: RegExp): RegExpExecArray | null => {
    pattern.lastIndex = at;
    const match = pattern.exec(text);
    if (match) at = pattern.lastIndex;
    return match;
  };
  for (skipSpace(); at < text.length; skipSpace()) {
    const start = at;
    const opcode = take(OPCODE)?.[0];
    const operands: string[] = [];
    for (skipSpace(); at < text.length && text[at] !== ';'; skipSpace()) {
      const operand = take(OPERAND);
      if (!operand) break;
      operands.push(operand[1]?.replace(/\\(["\\])/g, '$1') ?? operand[2]!);
    }
    if (opcode === undefined || (at < text.length && text[at] !== ';'))
      throw new ReadError({
        code: 'epd.operation',
        params: { found: text.slice(start, start + 40).trim() },
        place: { line: 0, column: column + start },
      });
    at++;
    operations.push({ opcode, operands });
    if (operations.length > LIMITS.tags)
      throw new ReadError({ ...limitProblem('tags'), place: { line: 0, column: column + start } });
  }
  return operations;
}

/** One position a line; each becomes a game without moves whose operations are tags. */
export const EPD: LineFormat = {
  cutter: oneByLine,
  read: ([line]) => readPlaced(line!, readLine),
};

function readLine(line: string): GameRecord {
  const match = /^\s*(\S+\s+\S+\s+\S+\s+\S+)([^]*)$/.exec(line);
  if (!match) throw new PositionError('fen.fields', { found: line.trim().split(/\s+/).length });
  const counters = /^\s+(\d+)\s+(\d+)(?=\s|$)/.exec(match[2]!);
  const fen = counters ? `${match[1]} ${counters[1]} ${counters[2]}` : match[1]!;
  const rest = counters ? match[2]!.slice(counters[0].length) : match[2]!;
  const operations = readOperations(rest, line.length - rest.length + 1);
  const tags: Tag[] = operations.map(({ opcode, operands }) => ({
    name: opcode === 'id' ? 'Event' : PREFIX + opcode,
    value: operands.join(' '),
  }));
  const limit = tags.map(tagLimit).find((broken) => broken !== null);
  if (limit) throw new ReadError({ ...limitProblem(limit), place: { line: 0, column: 1 } });
  return {
    tree: emptyTree('chess', writeFen(readFen(fen))),
    tags,
    result: '*',
    end: null,
  };
}

const UNQUOTED = /^(bm|am|pv|sv|dm|ce|acd|acn|acs|hmvc|fmvn)$/;

/** The opcode that a tag stands for, or null. */
const opcodeOf = ({ name }: Tag): string | null =>
  name === 'Event' ? 'id' : (/^EPD_([A-Za-z][A-Za-z0-9_]*)$/.exec(name)?.[1] ?? null);

export const isEpdTag = (tag: Tag): boolean => opcodeOf(tag) !== null;

/** Writes the starting position of a game with the operations that its tags hold. */
export function writeEpd({ tree, tags }: GameRecord): string {
  const fields = tree.start.split(' ').slice(0, 4).join(' ');
  const operations = tags.flatMap((tag) => {
    const opcode = opcodeOf(tag);
    if (opcode === null) return [];
    const isBare = UNQUOTED.test(opcode) && /^[^\s";]+(?: [^\s";]+)*$/.test(tag.value);
    const line = tag.value.replace(/[\r\n]+/g, ' ');
    const operand = isBare ? tag.value : `"${line.replace(/["\\]/g, '\\$&')}"`;
    return [` ${opcode} ${operand};`];
  });
  return `${fields}${operations.join('')}\n`;
}
