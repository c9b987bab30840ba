import { describe, expect, it } from 'vitest';
import type { Score } from '@/core/game/score';
import { rulesetOf } from '@/core/rulesets';
import type { Question } from '@/core/ask/question';
import type { Engine } from '../contract';
import { playMatchGame, type Player } from './match';

const EVEN: Score = { kind: 'cp', cp: 0 };

/** A player who answers what it is told to; null: nothing. */
function player(
  answer: (request: Question) => string | null,
  score: Score = EVEN,
): Player & { asked: Question[] } {
  const asked: Question[] = [];
  const engine: Engine = {
    search(request) {
      asked.push(request);
      const move = answer(request);
      return Promise.resolve({
        depth: 1,
        selectiveDepth: 1,
        nodes: 1,
        milliseconds: 0,
        lines: move === null ? [] : [{ score, moves: [move] }],
      });
    },
    close: () => undefined,
  };
  return { engine, budget: { nodes: 100 }, asked };
}

/** Plays its moves one after the other, and again from the first. */
const inTurn = (...moves: string[]) => {
  let turn = 0;
  return (): string => moves[turn++ % moves.length]!;
};

const chess = rulesetOf('chess');
const shogi = rulesetOf('shogi');

describe('a game of a match', () => {
  it.each([
    ['nothing', null],
    ['an illegal move', 'e2e5'],
    ['a move of the other side', 'e7e5'],
    ['what is no move', 'hello'],
  ])('is lost by: %s', async (_, answer) => {
    const bad = player(() => answer);
    const good = player(inTurn('g8f6', 'f6g8'));
    expect(await playMatchGame(chess, [bad, good], [])).toBe(0);
    expect(await playMatchGame(chess, [good, player(() => answer)], ['e2e4', 'e7e6'])).toBe(0);
    const other = player(inTurn('g1f3'));
    expect(await playMatchGame(chess, [other, player(() => answer && 'e7e4')], [])).toBe(1);
  });

  it('ends as the rules say', async () => {
    const mated = player(inTurn('f2f3', 'g2g4'));
    const mating = player(inTurn('e7e5', 'd8h4'));
    expect(await playMatchGame(chess, [mated, mating], [])).toBe(0);
    const shuffles = [player(inTurn('g1f3', 'f3g1')), player(inTurn('g8f6', 'f6g8'))] as const;
    expect(await playMatchGame(chess, shuffles, [])).toBe(0.5);
    const golds = [player(inTurn('4i4h', '4h4i')), player(inTurn('6a6b', '6b6a'))] as const;
    expect(await playMatchGame(shogi, golds, [])).toBe(0.5);
  });

  it('is given up when both agree for some moves on who wins, not when one thinks so', async () => {
    const won: Score = { kind: 'cp', cp: 1500 };
    const shuffles = () => [inTurn('g1f3', 'f3g1'), inTurn('g8f6', 'f6g8')] as const;
    const play = (one: Score, other: Score): Promise<number> => {
      const [a, b] = shuffles();
      return playMatchGame(chess, [player(a, one), player(b, other)], []);
    };
    expect(await play(won, won)).toBe(1);
    expect(await play({ kind: 'cp', cp: -1500 }, { kind: 'mate', winner: 1, plies: 8 })).toBe(0);
    expect(await play(won, EVEN)).toBe(0.5);
    expect(await play(won, { kind: 'cp', cp: -1500 })).toBe(0.5);
  });

  it('tells an engine the game so far, and lets it forget before its first move alone', async () => {
    const first = player(inTurn('g1f3', 'f3g1'));
    const second = player(inTurn('g8f6', 'f6g8'));
    await playMatchGame(chess, [first, second], ['e2e4', 'e7e5']);
    expect(first.asked.map(({ fresh }) => fresh).slice(0, 3)).toEqual([true, false, false]);
    expect(second.asked[0]).toMatchObject({
      fresh: true,
      lines: 1,
      budget: { nodes: 100 },
      game: { moves: expect.arrayContaining(['e2e4', 'e7e5', 'g1f3']) as string[] },
    });
    expect(first.asked[1]!.root.position).toMatch(/^rnbqkb1r/);
  });
});
