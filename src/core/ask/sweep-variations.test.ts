import { describe, expect, it } from 'vitest';
import { chess } from '../chess/ruleset';
import type { Side } from '../game/ruleset';
import { NULL_MOVE } from '../game/move';
import { cpScore } from '../game/score';
import type { GameTree } from '../game/tree';
import { isRead } from '../notation/reading';
import { readGames } from '../notation/formats';
import { annotated } from '../review/annotate';
import { changesBetween, findingsOfSweep, overlaid } from '../review/findings';
import { USUAL_REMARKS } from '../review/remarks';
import { playedAlone, type Scope } from '../review/sweep-settings';
import { isFlag } from '../review/verdict';
import { writeGame } from '../notation/formats';
import type { Ask } from './question';
import { sweepGame } from './sweep-game';
import { variationsOf } from './swept';

const gameOf = (moves: string) => {
  const [reading] = [...readGames(moves, 'pgn')];
  if (!reading || !isRead(reading)) throw new Error('no game');
  return reading.record;
};

/** 2... Nf6 loses in the second variation, and 2. Qh5 in the third, which says so itself. */
const GAME = gameOf(
  '1. e4 (1. d4 d5 2. c4) 1... e5 2. Nf3 (2. Bc4 Nf6 (2... Nc6 3. Qh5) 3. d3) (2. Qh5 $2 Ke7) 2... Nc6 *',
);
const LOSING: Readonly<Record<string, Side>> = {
  'e2e4 e7e5 f1c4 g8f6': 1,
  'e2e4 e7e5 f1c4 g8f6 d2d3': 1,
  'e2e4 e7e5 d1h5': 0,
  'e2e4 e7e5 d1h5 e8e7': 0,
  'e2e4 e7e5 g1f3 b8c6': 1,
};

/** All is level, but behind one of those moves. */
function engine(losing = LOSING) {
  const lost = new Map(
    Object.entries(losing).map(([moves, side]) => {
      let position = chess.start();
      for (const code of moves.split(' ')) position = chess.play(position, chess.parseCode(code)!);
      return [chess.searchRoot(position, []).position, side];
    }),
  );
  const asked: string[] = [];
  const ask: Ask = ({ root, budget, only }) => {
    asked.push(root.position);
    const side = lost.get(root.position);
    const position = chess.start(root.position);
    const moves = chess.moves(position).map((move) => chess.code(move));
    // a quiet move that nobody plays here
    const best = only?.[0] ?? moves.find((code) => /^[ah][27]/.test(code)) ?? moves[0]!;
    const cp = side === undefined ? 0 : side === 0 ? -300 : 300;
    return Promise.resolve({
      depth: 10,
      nodes: budget.nodes ?? 1,
      milliseconds: 1,
      lines: [{ score: cpScore(cp), moves: [best] }],
    });
  };
  return { ask, asked };
}

const settings = (moves?: Scope) => ({
  average: { nodes: 10_000 },
  ...(moves ? { moves } : {}),
});
const sweep = async (moves?: Scope, losing = LOSING) => {
  const { ask, asked } = engine(losing);
  const told: [number, number][] = [];
  const found = await sweepGame(GAME, settings(moves))(ask, ({ done, total }) =>
    told.push([done, total]),
  );
  return { findings: findingsOfSweep(GAME, found), asked, told, found };
};
const written = (tree: GameTree, id: number): string => chess.code(tree.nodes.get(id)!.move);
const flagged = (found: Awaited<ReturnType<typeof sweep>>): string[] =>
  found.findings.variations
    .filter(([, { verdict }]) => isFlag(verdict))
    .map(([id]) => written(GAME.tree, id));

describe('the variations of a game', () => {
  it('are lines with the way to them, also those within others, up to a pass', () => {
    const lines = (stretch = {}) =>
      variationsOf(GAME.tree, stretch).map(({ nodes, from }) => [
        from,
        nodes.map(({ move }) => chess.code(move)).join(' '),
      ]);
    expect(lines()).toEqual([
      [1, 'd2d4 d7d5 c2c4'],
      [3, 'e2e4 e7e5 f1c4 g8f6 d2d3'],
      [3, 'e2e4 e7e5 d1h5 e8e7'],
      [4, 'e2e4 e7e5 f1c4 b8c6 d1h5'],
    ]);
    // one within another leaves the game where that does
    expect(lines({ from: 2, to: 3 }).map(([from]) => from)).toEqual([3, 3, 4]);
    expect(lines({ to: 2 }).map(([from]) => from)).toEqual([1]);
    expect(lines({ from: 4 })).toEqual([]);
    const passing = gameOf('1. e4 e5 (1... d5 2. -- d4) (1... --) 2. Nf3 *');
    const cut = variationsOf(passing.tree);
    expect(cut.flatMap(({ nodes }) => nodes.map(({ move }) => move))).not.toContain(NULL_MOVE);
    expect(cut.map(({ nodes }) => nodes.length)).toEqual([2]);
  });

  it('are gone over only where that is asked for', async () => {
    const played = await sweep();
    expect(played.findings.variations).toEqual([]);
    expect(played.findings.findings.moves.map((move) => move?.verdict)).toEqual([
      'none',
      'none',
      'none',
      'blunder',
    ]);
    const own = await sweep({ over: 'variations' });
    expect(own.findings.findings.moves).toEqual([null, null, null, null]);
    expect(own.findings.findings.course.filter(Boolean)).toEqual([]);
    expect(flagged(own)).toEqual(['g8f6', 'd1h5']);
    const both = await sweep({ over: 'both' });
    expect(both.findings.variations).toEqual(own.findings.variations);
    expect(both.findings.findings).toEqual(played.findings.findings);
    expect(both.findings.variations.map(([id]) => written(GAME.tree, id)).sort()).toEqual(
      ['d2d4', 'd7d5', 'c2c4', 'f1c4', 'g8f6', 'd2d3', 'd1h5', 'e8e7', 'b8c6', 'd1h5'].sort(),
    );
  });

  it('are gone over for one side, and from where they leave the game', async () => {
    const black = await sweep({ over: 'variations', side: 1 });
    expect(flagged(black)).toEqual(['g8f6']);
    expect(black.findings.variations.every(([, { side }]) => side === 1)).toBe(true);
    const late = await sweep({ over: 'both', from: 4 });
    expect(late.findings.variations).toEqual([]);
    expect(late.findings.findings.moves.map((move) => move?.ply ?? null)).toEqual([
      null,
      null,
      null,
      4,
    ]);
  });

  it('are left out where only the moves that were played are asked about', async () => {
    const both = settings({ over: 'both', from: 2 });
    expect(playedAlone(both)).toEqual(settings({ from: 2 }));
    expect(playedAlone(settings({ over: 'variations' }))).toBeNull();
    for (const same of [settings(), settings({ side: 1 }), { depth: 5, lines: 1 }])
      expect(playedAlone(same)).toEqual(same);
    const alone = await sweepGame(GAME, playedAlone(both)!)(engine().ask, () => undefined);
    const whole = await sweepGame(GAME, both)(engine().ask, () => undefined);
    expect(alone.evaluations()).toEqual(whole.evaluations());
    expect(alone.variations()).toEqual([]);
  });

  it('count in how far a sweep has come, from its first word on', async () => {
    const { told, found } = await sweep({ over: 'both' });
    expect(new Set(told.map(([, total]) => total))).toEqual(new Set([found.total]));
    expect(found.done).toBe(found.total);
    // the main line, and of each variation what it adds with the position that it leaves
    expect(found.total).toBe(5 + 4 + 4 + 3 + 3);
    expect(told.every(([done], index) => index === 0 || done >= told[index - 1]![0])).toBe(true);
  });

  it('get signs and better lines where they fail, unless they say so themselves', async () => {
    const { findings, found } = await sweep({ over: 'both' });
    const marked = annotated(
      GAME,
      {
        findings: findings.findings,
        evaluations: found.evaluations(),
        variations: findings.variations,
      },
      () => 'better:',
      Math.random,
      { ...USUAL_REMARKS, evaluations: false },
    );
    const text = writeGame(marked, 'pgn').replace(/\s+/g, ' ');
    expect(text).toContain('(2. Bc4 Nf6 $4 (2... Nc6 3. Qh5) (2... a6 {better:}) 3. d3)');
    expect(text).toContain('(2. Qh5 $2 Ke7)');
    expect(text.match(/better:/g)).toHaveLength(2);
    expect(GAME.tree.nodes.size).toBeLessThan(marked.tree.nodes.size);
  });
});

describe('a sweep that was not the first', () => {
  it('leaves standing what it has not gone over', async () => {
    const first = (await sweep({ over: 'both' })).findings;
    const later = (await sweep({ from: 3, to: 3 }, { 'e2e4 e7e5 g1f3': 0 })).findings;
    expect(later.findings.moves.map((move) => move?.verdict ?? null)).toEqual([
      null,
      null,
      'blunder',
      null,
    ]);
    const together = overlaid(later, first);
    expect(together.findings.moves.map((move) => move?.verdict)).toEqual([
      'none',
      'none',
      'blunder',
      'blunder',
    ]);
    expect(together.findings.course.every(Boolean)).toBe(true);
    expect(together.findings.accuracy.map(({ moves }) => moves)).toEqual([2, 2]);
    expect(together.variations).toEqual(first.variations);
    expect(changesBetween(first, together)).toEqual([
      {
        ply: 3,
        before: { verdict: 'none', loss: 0 },
        now: { verdict: 'blunder', loss: together.findings.moves[2]!.loss },
      },
    ]);
    expect(changesBetween(first, first)).toEqual([]);
  });

  it('says of a variation that it has gone over what it has found', async () => {
    const first = (await sweep({ over: 'both' })).findings;
    const later = (await sweep({ over: 'variations', from: 3 }, {})).findings;
    const together = overlaid(later, first);
    expect(together.variations).toHaveLength(first.variations.length);
    expect(together.variations.filter(([, { verdict }]) => isFlag(verdict))).toEqual([]);
    expect(together.findings.moves).toEqual(first.findings.moves);
  });

  it('takes over nothing behind a move that has been changed since', async () => {
    const first = (await sweep()).findings;
    const changed = {
      ...(await sweep({ to: 1 })).findings,
      line: ['e2e4', 'e7e5', 'b1c3', 'b8c6'],
    };
    expect(overlaid(changed, first).findings.moves.map((move) => move?.ply ?? null)).toEqual([
      1,
      2,
      null,
      null,
    ]);
    // a loss that is a little different is no change
    const near = {
      ...first,
      findings: {
        ...first.findings,
        moves: first.findings.moves.map(
          (move, index) => move && { ...move, loss: move.loss + [5.9, 6, 0, 0][index]! },
        ),
      },
    };
    expect(changesBetween(first, near).map(({ ply }) => ply)).toEqual([2]);
  });
});
