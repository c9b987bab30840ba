import { expect, it } from 'vitest';
import { readGames } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { rulesetOf } from '@/core/rulesets';
import { printedRuns } from './printed-game';

/** The running text with main-line moves in asterisks and words in quotes. */
function printed(text: string, format: 'pgn' | 'kif'): string {
  const [reading] = [...readGames(text, format)].filter(isRead);
  const { tree } = reading!.record;
  return printedRuns(tree, rulesetOf(tree.kind), 'western')
    .map((run) => {
      if (run.type === 'open') return '(';
      if (run.type === 'close') return ')';
      if (run.type === 'words') return `"${run.text}"`;
      return run.isMain ? `*${run.text}*` : run.text;
    })
    .join(' ');
}

it('a game is set as running text, with variations and words where they belong', () => {
  expect(
    printed(
      '{A start} 1. e4 e5 $1 {Solid} 2. Nf3 (2. f4 exf4 (2... d5) 3. Nf3) (2. Nc3) 2... Nc6 *',
      'pgn',
    ),
  ).toBe(
    '"A start" *1. e4* *e5!* "Solid" *2. Nf3* ( 2. f4 exf4 ( 2… d5 ) 3. Nf3 ) ( 2. Nc3 ) *2… Nc6*',
  );
});

it('shogi moves each have their number', () => {
  expect(printed('手合割：平手\n1 ７六歩(77)\n2 ３四歩(33)\n*静か\n', 'kif')).toBe(
    '*1 P-7f* *2 P-3d* "静か"',
  );
});
