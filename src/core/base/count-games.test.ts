import { expect, it } from 'vitest';
import { countGames, MANY } from './count-games';

it.each([10, MANY - 1, MANY, 3 * MANY])(
  'counts each of %d games once, and those alone that are wanted',
  (count) => {
    const games = Array.from({ length: count }, (_, index) => 2 * index);
    const parts = [
      { move: null, games: games.slice(0, 6) },
      { move: null, games: games.slice(5) },
    ];
    const size = 2 * count;
    expect(countGames(parts, size, () => true)).toBe(count);
    expect(countGames(parts, size, (game) => game >= 8 && game < size - 2)).toBe(count - 5);
    expect(countGames([], size, () => true)).toBe(0);
  },
);
