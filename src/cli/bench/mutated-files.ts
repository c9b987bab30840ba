import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { formatOfName, type Format } from '@/core/notation/formats';
import { writeGame, readGames } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { randomSource } from '@/engine/draw';

export interface SourceFile {
  format: Format;
  text: string;
}

const FOLDER = join(process.env.BEKTRA_ROOT ?? process.cwd(), 'demo/games');

/** The first games of each demo file, in its own format and in the others of its game. */
export const DEMO_FILES: readonly SourceFile[] = readdirSync(FOLDER).flatMap((name) => {
  const format = formatOfName(name);
  if (!format) return [];
  const records = [...readGames(readFileSync(join(FOLDER, name), 'utf8'), format)]
    .filter(isRead)
    .slice(0, 3)
    .map(({ record }) => record);
  const others: Format[] = format === 'pgn' ? ['pgn', 'fen'] : ['kif', 'ki2', 'csa', 'sfen'];
  return others.map((other) => ({
    format: other,
    text: records.map((record) => writeGame(record, other)).join(other === 'csa' ? '/\n' : '\n'),
  }));
});

const PIECES = [
  '{',
  '}',
  '(',
  ')',
  '[',
  ']',
  '"',
  '\\',
  ';',
  '%',
  '$',
  '*',
  '\n',
  '\r',
  ' ',
  '\u2028',
  '\0',
  '[%clk ',
  '[Event "',
  '1-0',
  '変化：3手\n',
  '同',
  '打',
  "'",
  '+',
  '-',
  ',',
  '/',
  '|',
  '：',
  '999999999',
  '\ud800',
  '٣',
];

/** The file with some of its characters lost, doubled, moved or replaced: always the same for a seed. */
export function mutated({ format, text }: SourceFile, seed: number): SourceFile {
  const draw = randomSource(seed + 1);
  const upTo = (most: number): number => Math.floor(draw() * most);
  let changed = text;
  for (let times = 1 + upTo(12); times > 0; times--) {
    const at = upTo(changed.length);
    const length = upTo(upTo(40) + 1);
    const piece = PIECES[upTo(PIECES.length)]!;
    const rest = changed.slice(at + length);
    switch (upTo(4)) {
      case 0:
        changed = changed.slice(0, at) + rest;
        break;
      case 1:
        changed = changed.slice(0, at) + piece + rest;
        break;
      case 2:
        changed = changed.slice(0, at) + changed.slice(at, at + length).repeat(3) + rest;
        break;
      default:
        changed = changed.slice(0, at) + piece.repeat(1 + upTo(50)) + changed.slice(at);
    }
  }
  return { format, text: changed };
}
