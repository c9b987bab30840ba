import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { describe, expect, it } from 'vitest';
import { readVectors } from '../../tests/support/vectors';
import type { MateAnswer } from '@/core/ask/mate';
import { dropOf, NULL_MOVE, type Move } from '@/core/game/move';
import { PositionError, type GameKind } from '@/core/game/ruleset';
import { shogi } from '@/core/shogi/ruleset';
import type { ShogiPosition } from '@/core/shogi/position';
import { randomSource } from './draw';
import { MateProver, type MateRules } from './mate-prover';
import { finish, lookForMates, searchMate } from './mate-search';

const compiled = Object.fromEntries(
  (['chess', 'shogi'] as const).map((kind) => [
    kind,
    new WebAssembly.Module(readFileSync(resolve(`dist/engine/${kind}-mates.wasm`))),
  ]),
) as Record<GameKind, WebAssembly.Module>;

const TRADE: MateRules = { quiet: false, everyDefence: false };
const STRICT: MateRules = { quiet: false, everyDefence: true };

function prover(kind: GameKind, rules: MateRules): MateProver {
  const made = new MateProver(kind, compiled[kind]);
  made.setRules(rules);
  return made;
}
const solve = (by: MateProver, position: string, plies: number, nodes = 3_000_000): MateAnswer =>
  finish(searchMate(by, { position, plies, nodes }));

interface Mate {
  game: GameKind;
  fen?: string;
  sfen?: string;
  n: number;
  solutions: string[];
}

describe('mates that are known', () => {
  it.each(readVectors<Mate>('mates.jsonl').map((mate) => ({ ...mate, of: mate.fen ?? mate.sfen })))(
    '$game in $n: $of',
    ({ game, of, n, solutions }) => {
      const by = prover(game, { quiet: game === 'chess', everyDefence: true });
      const plies = game === 'chess' ? 2 * n - 1 : n;
      const found = solve(by, of!, plies + 2);
      expect(found).toMatchObject({ mate: plies, proven: true, undecided: 0 });
      expect(found.first.toSorted()).toEqual(solutions.toSorted());
      expect(found.line).toHaveLength(plies);
      expect(solutions).toContain(found.line[0]);
      // none is found where it may not be as long
      if (plies > 1)
        expect(solve(prover(game, STRICT), of!, plies - 2)).toMatchObject({
          mate: null,
          proven: true,
        });
    },
  );
});

/** Whether the side to move mates by checks within so many plies, by trying all. */
function mates(position: ShogiPosition, plies: number): boolean {
  return shogi.moves(position).some((move) => {
    const next = shogi.play(position, move);
    if (!next.inCheck()) return false;
    const replies = shogi.moves(next);
    if (replies.length === 0) return true;
    return plies > 2 && replies.every((reply) => mates(shogi.play(next, reply), plies - 2));
  });
}

describe('mates of shogi', () => {
  it('are there exactly where trying all moves finds them', () => {
    const random = randomSource(5);
    const by = prover('shogi', STRICT);
    let found = 0;
    for (let count = 0; count < 150; count++) {
      const sfen = cornered(random);
      const position = shogi.start(sfen);
      for (const plies of [1, 3]) {
        const { mate, proven, never } = solve(by, sfen, plies);
        expect(proven, sfen).toBe(true);
        expect(mate !== null, `${plies}: ${sfen}`).toBe(mates(position, plies));
        if (never) expect(mates(position, 3), sfen).toBe(false);
        if (mate === 3) found++;
      }
    }
    expect(found).toBeGreaterThan(3);
  });

  it('are given against every defence', () => {
    const problems = readFileSync(resolve('tests/mates/composed.tsv'), 'utf8').trim().split('\n');
    const nine = problems.map((line) => line.split('\t')).filter(([plies]) => plies === '9');
    expect(nine.length).toBeGreaterThan(9);
    for (const [, sfen] of nine.slice(0, 5)) {
      const by = prover('shogi', TRADE);
      expect(solve(by, sfen!, 25)).toMatchObject({ mate: 9, proven: true });
      replay(by, shogi.start(sfen), 9);
    }
  });

  it('are none where a pawn is dropped', () => {
    const held = (hand: string): string => `7lk/9/7G1/9/9/9/9/9/9 b ${hand} 1`;
    expect(solve(prover('shogi', TRADE), held('P'), 25)).toMatchObject({
      mate: null,
      proven: true,
      never: true,
    });
    const lance = solve(prover('shogi', TRADE), held('L'), 25);
    expect(lance.mate).toBe(1);
    expect(lance.first).toContain('L*1b');
  });

  it('don’t grow longer by pieces that are put between to no purpose', () => {
    const rook = 'RG6k/7pp/9/9/9/9/9/9/9 b p 1';
    const trade = solve(prover('shogi', TRADE), rook, 25);
    expect(trade).toMatchObject({ mate: 1, proven: true });
    expect(trade.first.toSorted()).toEqual(['8a8b']);
    expect(solve(prover('shogi', STRICT), rook, 25).mate).toBe(3);
    // what the king guards is put there to some purpose
    expect(solve(prover('shogi', TRADE), rook.replace(' p 1', ' g 1'), 1).mate).toBe(null);
  });

  it('are suffered, and put off as long as may be', () => {
    const by = prover('shogi', TRADE);
    // a gold before the king, held by a pawn, and the king’s own pieces beside it
    const mated = '3lkl3/4G4/4P4/9/9/9/9/9/9 w - 1';
    expect(solve(by, mated, 24)).toMatchObject({ mate: 0, proven: true, first: [], line: [] });
    const open = '3lkl3/9/4P4/9/9/9/9/9/9 b G 1';
    expect(solve(by, open, 25)).toMatchObject({ mate: 1, first: ['G*5b'] });
    const longer = readVectors<Mate>('mates.jsonl').find(
      ({ game, n }) => game === 'shogi' && n === 3,
    )!;
    const after = shogi.play(shogi.start(longer.sfen), shogi.parseCode(longer.solutions[0]!)!);
    const suffered = solve(prover('shogi', STRICT), shogi.write(after), 24);
    expect(suffered).toMatchObject({ mate: 2, proven: true });
    expect(suffered.first).toContain(suffered.line[0]);
    expect(suffered.line).toHaveLength(2);
  });

  it('are said to be open where the effort did not do', () => {
    const [, sfen] = readFileSync(resolve('tests/mates/composed.tsv'), 'utf8')
      .split('\n')
      .map((line) => line.split('\t'))
      .find(([plies]) => plies === '13')!;
    const little = solve(prover('shogi', TRADE), sfen!, 25, 30);
    expect(little).toMatchObject({ mate: null, proven: false, never: false });
    expect(little.nodes).toBeLessThan(100);
    const much = solve(prover('shogi', TRADE), sfen!, 25);
    expect(much.mate).toBe(13);
    // the same again: nothing is left to chance
    expect(solve(prover('shogi', TRADE), sfen!, 25)).toEqual(much);
  });
});

/** A king in the corner, with some pieces of both sides and some in hand. */
function cornered(random: () => number): string {
  while (true) {
    const sfen = drawn(random);
    try {
      shogi.start(sfen);
      return sfen;
    } catch (error) {
      if (!(error instanceof PositionError)) throw error;
    }
  }
}

function drawn(random: () => number): string {
  const board = Array.from({ length: 9 }, () => Array.from({ length: 9 }, () => ''));
  const below = (count: number): number => Math.floor(count * random());
  const put = (letter: string): void => {
    const row = board[below(4)]!;
    const column = 5 + below(4);
    if (row[column] === '') row[column] = letter;
  };
  board[below(2)]![7 + below(2)] = 'k';
  for (const letter of ['G', 'S', '+P', 'R', '+B', 's', 'g', 'n']) if (random() < 0.6) put(letter);
  const hand = ['G', 'S', 'N', 'P', 'B'].filter(() => random() < 0.4).join('') + 'gp';
  const rows = board.map((row) =>
    row
      .map((piece) => piece || '1')
      .join('')
      .replaceAll(/1+/g, (gap) => String(gap.length)),
  );
  return `${rows.join('/')} b ${hand} 1`;
}

/** Goes through every defence against the moves that the prover gives, and expects a mate within so many plies. */
function replay(by: MateProver, position: ShogiPosition, plies: number): void {
  const { mate, first } = solve(by, shogi.write(position), plies);
  expect(mate).not.toBe(null);
  const move = shogi.parseCode(first[0]!)!;
  expect(shogi.isLegal(position, move)).toBe(true);
  const next = shogi.play(position, move);
  expect(next.inCheck()).toBe(true);
  const replies: Move[] = shogi.moves(next);
  if (mate === 1) {
    // nothing is left but to put something between, which is taken with mate again
    for (const reply of replies) {
      expect(dropOf(reply)).not.toBe(0);
      expect(solve(by, shogi.write(shogi.play(next, reply)), 1).mate).toBe(1);
    }
    return;
  }
  for (const reply of replies) replay(by, shogi.play(next, reply), mate! - 2);
}

describe('a look at a position', () => {
  const look = (sfen: string) => {
    const position = shogi.start(sfen);
    const passed = position.inCheck() ? null : shogi.write(shogi.play(position, NULL_MOVE));
    return finish(lookForMates(prover('shogi', TRADE), { position: sfen, passed, nodes: 100_000 }));
  };

  it('finds the own mate first', () => {
    expect(look('3lkl3/9/4P4/9/9/9/9/9/4K4 b G 1')).toMatchObject({
      own: { mate: 1 },
      danger: null,
      holds: null,
    });
  });

  it('finds what threatens, and the moves that hold', () => {
    const { own, danger, holds } = look('3lkl3/9/4P4/9/9/9/9/9/4K4 w Gp 1');
    expect(own).toMatchObject({ mate: null, never: true });
    expect(danger).toMatchObject({ mate: 1, proven: true, first: ['G*5b'] });
    // the king steps aside, a lance makes room for it, a pawn takes the gold’s place or its ground
    expect(holds!.isProven).toBe(true);
    expect(holds!.of).toBeGreaterThan(holds!.moves.length);
    expect(holds!.moves).toEqual(expect.arrayContaining(['P*5b', '5a4b', '5a6b']));
    for (const move of holds!.moves) {
      const after = shogi.play(
        shogi.start('3lkl3/9/4P4/9/9/9/9/9/4K4 w Gp 1'),
        shogi.parseCode(move)!,
      );
      expect(solve(prover('shogi', TRADE), shogi.write(after), 25).mate).toBe(null);
    }
  });

  it('says in check whether it is mated', () => {
    const { danger, holds } = look('3lkl3/4G4/4P4/9/9/9/9/9/4K4 w - 1');
    expect(danger).toMatchObject({ mate: 0, proven: true });
    expect(holds).toMatchObject({ moves: [], of: 0 });
  });

  it('says that nothing threatens', () => {
    expect(look(shogi.startText)).toMatchObject({
      own: { mate: null, never: true },
      danger: { mate: null, never: true },
      holds: null,
    });
  });
});
