import { ReadError } from '../../game/problem';
import type { GameRecord, Tag } from '../../game/record';
import { PositionError } from '../../game/ruleset';
import { emptyTree } from '../../game/tree';
import { readFen, writeFen } from '../fen/fen';
import type { Reading } from '../reading';

/** An operation of an EPD line: its opcode and operands, quotes taken off. */
export interface EpdOperation {
  opcode: string;
  operands: string[];
}

/** Tags that hold an operation are named so. */
const PREFIX = 'EPD.';

const OPERATION = /\s*([A-Za-z][A-Za-z0-9_]*)((?:\s+(?:"[^"]*"|[^\s";]+))*)\s*(;|$)/y;

/** Reads the operations behind the four fields; @throws ReadError at what is no operation */
export function readOperations(text: string, column = 1): EpdOperation[] {
  const operations: EpdOperation[] = [];
  OPERATION.lastIndex = 0;
  while (text.slice(OPERATION.lastIndex).trim() !== '') {
    const at = OPERATION.lastIndex;
    const match = OPERATION.exec(text);
    if (!match)
      throw new ReadError({
        code: 'epd.operation',
        params: { found: text.slice(at).trim().slice(0, 40) },
        place: { line: 0, column: column + at },
      });
    const operands = [...match[2]!.matchAll(/"([^"]*)"|(\S+)/g)].map(
      ([, quoted, bare]) => quoted ?? bare!,
    );
    operations.push({ opcode: match[1]!, operands });
  }
  return operations;
}

/** Reads one position a line; each becomes a game without moves whose operations are tags. */
export function* readEpd(text: string): Generator<Reading> {
  let game = 0;
  for (const [index, line] of text
    .replace(/^\ufeff/, '')
    .split(/\r\n|\n|\r/)
    .entries()) {
    if (line.trim() === '' || line.startsWith('#')) continue;
    game++;
    try {
      yield { record: readLine(line), line: index + 1 };
    } catch (error) {
      const place = { line: index + 1, column: 1, game };
      if (error instanceof PositionError)
        yield { problem: { code: error.code, params: error.params, place } };
      else if (error instanceof ReadError)
        yield { problem: { ...error.problem, place: { ...error.problem.place, ...place } } };
      else throw error;
    }
  }
}

function readLine(line: string): GameRecord {
  const match = /^\s*(\S+\s+\S+\s+\S+\s+\S+)(.*)$/.exec(line);
  if (!match) throw new PositionError('fen.fields', { found: line.trim().split(/\s+/).length });
  const counters = /^\s+(\d+)\s+(\d+)(?=\s|$)/.exec(match[2]!);
  const fen = counters ? `${match[1]} ${counters[1]} ${counters[2]}` : match[1]!;
  const rest = counters ? match[2]!.slice(counters[0].length) : match[2]!;
  const operations = readOperations(rest, line.length - rest.length + 1);
  const tags: Tag[] = operations.map(({ opcode, operands }) => ({
    name: opcode === 'id' ? 'Event' : PREFIX + opcode,
    value: operands.join(' '),
  }));
  return {
    tree: emptyTree('chess', writeFen(readFen(fen))),
    tags,
    result: '*',
    end: null,
  };
}

const UNQUOTED = /^(bm|am|pv|sv|dm|ce|acd|acn|acs|hmvc|fmvn)$/;

/** Writes the starting position of a game with the operations that its tags hold. */
export function writeEpd({ tree, tags }: GameRecord): string {
  const fields = tree.start.split(' ').slice(0, 4).join(' ');
  const operations = tags.flatMap(({ name, value }) => {
    const opcode = name === 'Event' ? 'id' : name.startsWith(PREFIX) ? name.slice(4) : null;
    if (opcode === null) return [];
    const operand = UNQUOTED.test(opcode) ? value : `"${value.replace(/"/g, "'")}"`;
    return [` ${opcode} ${operand};`];
  });
  return `${fields}${operations.join('')}\n`;
}
