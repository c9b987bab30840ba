import { readFileSync } from 'node:fs';

const folder = new URL('../vectors/', import.meta.url);

/** The known answers of a file in tests/vectors, one object a line. For tests only. */
export const readVectors = <T>(file: string): T[] =>
  readFileSync(new URL(file, folder), 'utf8')
    .split('\n')
    .filter(Boolean)
    .map((line) => JSON.parse(line) as T);

export interface PerftRow {
  game: 'chess' | 'shogi';
  position: string;
  depth: number;
  count: number;
}

export const readPerft = (): PerftRow[] =>
  readFileSync(new URL('perft.tsv', folder), 'utf8')
    .trim()
    .split('\n')
    .slice(1)
    .map((line) => {
      const [game, position, depth, count] = line.split('\t');
      return {
        game: game as PerftRow['game'],
        position: position!,
        depth: Number(depth),
        count: Number(count),
      };
    });
