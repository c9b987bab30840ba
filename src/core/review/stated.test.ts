import { describe, expect, it } from 'vitest';
import { readGames } from '../notation/formats';
import { isRead } from '../notation/reading';
import { moveAccuracy } from './accuracy';
import { chanceOf } from './chance';
import { cpScore } from '../game/score';
import { SIDE_FIGURES } from './game-figures';
import { statedFigures } from './stated';

const read = (text: string, format: 'pgn' | 'kif' = 'pgn') => {
  const [reading] = [...readGames(text, format)];
  if (!reading || !isRead(reading)) throw new Error('not read');
  return reading.record;
};

const chess = (pawns: number): number => chanceOf('chess', cpScore(100 * pawns), 0);

describe('figures by the evaluations of a file', () => {
  it('are what the value falls by with each move, from the second on', () => {
    const game = read(
      '1. e4 {[%eval 0.4,12]} e5 {[%eval 0.5,10]} 2. Qh5 {[%eval -0.6,11]} Nc6 {[%eval -0.9,9]} *',
    );
    const [white, black] = statedFigures(game)!.sides;
    // White lost from 0.5 to −0.6 with the second move; the value of the position before the first is not stated
    const lost = chess(0.5) - chess(-0.6);
    expect(white).toMatchObject({ moves: 1, accuracy: moveAccuracy(lost), meanLoss: lost });
    expect(white.mistakes).toBe(1);
    // Black lost from 0.4 to 0.5, and gained with the second move, which is no loss
    const given = chess(0.5) - chess(0.4);
    expect(black.moves).toBe(2);
    expect(black.meanLoss).toBeCloseTo(given / 2);
    expect(black.accuracy).toBeCloseTo((moveAccuracy(given) + 100) / 2);
    expect(statedFigures(game)!.depth).toBeCloseTo((12 + 10 + 11) / 3);
    expect(Object.keys(white)).toEqual(expect.arrayContaining([...SIDE_FIGURES]));
  });

  it('are told of games in which nine moves in ten have an evaluation', () => {
    const game = (stated: number) =>
      read(
        `${['1. Nf3', 'Nf6', '2. Ng1', 'Ng8', '3. Nf3', 'Nf6', '4. Ng1', 'Nc6', '5. a3', 'a6']
          .map((move, index) => (index < stated ? `${move} {[%eval 0.1]}` : move))
          .join(' ')} *`,
      );
    // these evaluations state no depth
    expect(statedFigures(game(10))).toMatchObject({ depth: null });
    expect(statedFigures(game(9))).not.toBeNull();
    expect(statedFigures(game(8))).toBeNull();
    expect(statedFigures(game(0))).toBeNull();
    expect(statedFigures(read('*'))).toBeNull();
  });

  it('are told of both games', () => {
    const game = read(
      [
        '手合割：平手',
        '   1 ７六歩(77)',
        '*[%eval 0.50,8]',
        '   2 ３四歩(33)',
        '*[%eval 4.00,8]',
        '',
      ].join('\n'),
      'kif',
    );
    const [, second] = statedFigures(game)!.sides;
    expect(second.meanLoss).toBeCloseTo(
      chanceOf('shogi', cpScore(400), 0) - chanceOf('shogi', cpScore(50), 0),
    );
  });
});
