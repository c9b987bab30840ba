import { CHESS_LINES } from '@/core/openings/chess-lines';
import type { GameKind } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';

/** What may follow, each move with how much of it there is. */
export interface OpeningNode {
  weight: number;
  next: Map<string, OpeningNode>;
}

/** Shogi openings of general knowledge, in USI. */
const SHOGI_LINES = `
7g7f 3c3d 2g2f 8c8d 2f2e 8d8e 6i7h 4a3b 2e2d 2c2d 2h2d 8e8f 8g8f 8b8f 2d3d
7g7f 8c8d 2g2f 8d8e 8h7g 3c3d 7i8h 2b7g+ 8h7g 3a2b 3i3h 7a7b
7g7f 8c8d 2g2f 8d8e 8h7g 3c3d 7i6h 4a3b 6i7h 2b7g+ 6h7g 3a2b
7g7f 8c8d 7i6h 3c3d 6h7g 7a6b 2g2f 5c5d 3i4h 3a4b
7g7f 8c8d 7i6h 3c3d 6g6f 7a6b 5g5f 5c5d 3i4h 3a4b
7g7f 8c8d 2g2f 3c3d 6g6f 8d8e 8h7g 7a6b 7i6h 5a4b
2g2f 8c8d 2f2e 8d8e 6i7h 4a3b 2e2d 2c2d 2h2d P*2c 2d2f 7a7b
2g2f 8c8d 2f2e 8d8e 6i7h 4a3b 3i3h 7a7b 3h2g 7b8c
2g2f 8c8d 2f2e 8d8e 7g7f 4a3b 8h7g 3c3d 7i6h 2b7g+ 6h7g
2g2f 3c3d 7g7f 4c4d 3i4h 8b4b 5i6h 5a6b 6h7h 6b7b
2g2f 3c3d 7g7f 5c5d 4i5h 8b5b 5i6h 5a6b 6h7h 6b7b
7g7f 3c3d 2g2f 4c4d 2f2e 2b3c 3i4h 8b3b 5i6h 5a6b
7g7f 3c3d 2g2f 4c4d 2f2e 2b3c 3i4h 3a4b 5i6h 4b4c 6h7h 8b2b
7g7f 3c3d 6g6f 8c8d 7i7h 7a6b 2h6h 5a4b 5i4h 4b3b
7g7f 3c3d 6g6f 8c8d 2h6h 8d8e 8h7g 7a6b 5i4h 5a4b
7g7f 3c3d 6g6f 8c8d 8h7g 8d8e 2h8h 7a6b 5i4h 5a4b
7g7f 3c3d 7f7e 8c8d 2h7h 5a4b 5i4h 8d8e 4h3h
7g7f 8c8d 5g5f 8d8e 8h7g 5c5d 2h5h 7a6b 5i4h 5a4b
5g5f 8c8d 7g7f 8d8e 8h7g 7a6b 2h5h 5a4b 5i4h 4b3b
7g7f 3c3d 5g5f 8c8d 2h5h 8d8e 5f5e 7a6b 5i4h
7g7f 3c3d 4g4f 8c8d 3i4h 8d8e 8h7g 7a6b 4h4g 5a4b 2h4h
7g7f 3c3d 8h2b+ 3a2b B*4e 6a5b 4e3d 2b3c
7g7f 3c3d 2g2f 8b3b 2f2e 5a6b 3i4h 6b7b
7g7f 3c3d 1g1f 1c1d 6g6f 8c8d 7i7h 7a6b 2h6h
`;

const TEXTS: Record<GameKind, () => string[]> = {
  chess: () =>
    CHESS_LINES.trim()
      .split('\n')
      .map((line) => line.split('|')[3]!),
  shogi: () => SHOGI_LINES.trim().split('\n'),
};

/** Lines of moves in UCI or USI. @throws Error where one can't be played */
const linesOf = (kind: GameKind): string[][] => {
  const ruleset = rulesetOf(kind);
  return TEXTS[kind]().map((line) => {
    let position = ruleset.start();
    return line.split(' ').map((text) => {
      const code = kind === 'shogi' ? ruleset.parseCode(text) : null;
      const reading =
        code === null ? ruleset.readText(position, text, null, 'moves') : { move: code };
      if (!('move' in reading) || !ruleset.isLegal(position, reading.move))
        throw new Error(`${line}: ${text} can't be played`);
      position = ruleset.play(position, reading.move);
      return ruleset.code(reading.move);
    });
  });
};

/** All opening lines of a game in one tree; what many of them go through weighs more. */
export function openingTree(kind: GameKind): OpeningNode {
  const root: OpeningNode = { weight: 0, next: new Map() };
  for (const line of linesOf(kind)) {
    let node = root;
    for (const code of line) {
      const known: OpeningNode = node.next.get(code) ?? { weight: 0, next: new Map() };
      known.weight++;
      node.next.set(code, known);
      node = known;
    }
  }
  return root;
}

/** How likely a game leaves the known lines at each ply from the fifth on, by how strong its players are. */
const LEAVES = { strong: 0.05, club: 0.16 } as const;
export type PlayingLevel = keyof typeof LEAVES;

/** By how much a level likes a move, and how that changes over the years: fixed for each move. */
function liking(code: string, depth: number, level: PlayingLevel, year: number): number {
  let hash = level === 'strong' ? 17 : 71;
  for (const letter of `${code} ${depth}`) hash = (hash * 31 + letter.charCodeAt(0)) % 1_000_003;
  const taste = 0.35 + ((hash % 997) / 997) * 1.6;
  const fashion = 1 + 0.09 * (((hash >> 3) % 7) - 3) * ((year - 2020) / 5);
  return taste * Math.max(0.15, fashion);
}

/** The opening of a game: a way through the known lines, which it leaves sooner or later. */
export function walkOpening(
  tree: OpeningNode,
  level: PlayingLevel,
  year: number,
  random: () => number,
): string[] {
  const codes: string[] = [];
  let node = tree;
  while (node.next.size > 0) {
    if (codes.length >= 4 && random() < LEAVES[level]) break;
    const choices = Array.from(
      node.next,
      ([code, next]) =>
        [code, next, next.weight ** 0.8 * liking(code, codes.length, level, year)] as const,
    );
    let drawn = random() * choices.reduce((sum, [, , weight]) => sum + weight, 0);
    const [code, next] = choices.find(([, , weight]) => (drawn -= weight) < 0) ?? choices.at(-1)!;
    codes.push(code);
    node = next;
  }
  return codes;
}
