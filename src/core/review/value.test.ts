import { describe, expect, it } from 'vitest';
import { cpScore, mateScore } from '../game/score';
import { walk } from '../game/walk';
import { rulesetOf } from '../rulesets';
import { valueOf } from './value';

const evaluation = (cp: number) => ({
  depth: 12,
  answers: 1,
  lines: [{ score: cpScore(cp), moves: ['e2e4'] }],
});

describe('the value of a position', () => {
  const chess = rulesetOf('chess');
  const shogi = rulesetOf('shogi');

  it('is what a search found, with its depth', () => {
    expect(valueOf(chess, chess.start(), [], evaluation(31))).toEqual({
      score: cpScore(31),
      origin: { by: 'search', depth: 12 },
    });
  });

  it('is not known where nothing was found', () => {
    expect(valueOf(chess, chess.start(), [], null)).toBeNull();
    expect(valueOf(chess, chess.start(), [], { depth: 1, lines: [], answers: 1 })).toBeNull();
  });

  it.each([
    ['R5k1/5ppp/8/8/8/8/8/K7 b - - 0 1', mateScore(0, 0)],
    ['7k/5Q2/6K1/8/8/8/8/8 b - - 0 1', cpScore(0)],
    ['8/8/8/8/8/4k3/4p3/4K3 w - - 0 1', cpScore(0)],
  ])('is exact where the rules end the game, whatever a search says: %s', (fen, score) => {
    const value = valueOf(chess, chess.start(fen), [], evaluation(700));
    expect(value).toEqual({ score, origin: { by: 'rules' } });
  });

  it('is exact where a repetition ends the game', () => {
    const round = ['2h3h', '8b7b', '3h2h', '7b8b'];
    const line = walk(shogi, shogi.start(), [...round, ...round, ...round]);
    const history = line.map(({ before }) => before);
    const value = valueOf(shogi, line.at(-1)!.after, history, evaluation(700));
    expect(value).toEqual({ score: cpScore(0), origin: { by: 'rules' } });
  });
});
