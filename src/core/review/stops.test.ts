import { describe, expect, it } from 'vitest';
import { GAME_KINDS, type Side, type Position } from '../game/ruleset';
import { rulesetOf } from '../rulesets';
import type { Findings, MoveReview } from './review';
import { stopsOf } from './stops';

/** A game of forward moves; the moves at `turning` plies turned it. */
function game(kind: 'chess' | 'shogi', plies: number, turning: readonly number[]) {
  const ruleset = rulesetOf(kind);
  const positions: Position[] = [ruleset.start()];
  while (positions.length <= plies) {
    const moves = ruleset.moves(positions.at(-1)!);
    positions.push(ruleset.play(positions.at(-1)!, moves[(positions.length * 7) % moves.length]!));
  }
  const moves = Array.from({ length: plies }, (_, index) => ({
    ply: index + 1,
    side: (index % 2) as Side,
    isTurningPoint: turning.includes(index + 1),
  })) as unknown as MoveReview[];
  return { ruleset, positions, findings: { moves } as unknown as Findings };
}

describe.each(GAME_KINDS)('where to stop and think (%s)', (kind) => {
  it('before each turning point, and at as many ordinary positions apart from them', () => {
    const { ruleset, positions, findings } = game(kind, 60, [15, 21, 33, 47]);
    const stops = stopsOf(ruleset, positions, findings, null);
    expect(stops).toEqual(stops.toSorted((a, b) => a - b));
    expect(stops).toEqual(expect.arrayContaining([14, 20, 32, 46]));
    const ordinary = stops.filter((ply) => ![14, 20, 32, 46].includes(ply));
    expect(ordinary).toHaveLength(4);
    for (const ply of ordinary) {
      expect(ply).toBeGreaterThanOrEqual(8);
      for (const other of stops)
        if (other !== ply) expect(Math.abs(other - ply)).toBeGreaterThan(2);
    }
  });

  it('for one side only its own moves, the same ones each time', () => {
    const { ruleset, positions, findings } = game(kind, 60, [15, 22]);
    const stops = stopsOf(ruleset, positions, findings, 1);
    expect(stops).toContain(21);
    expect(stops.every((ply) => ply % 2 === 1)).toBe(true);
    expect(stopsOf(ruleset, positions, findings, 1)).toEqual(stops);
  });

  it('a game without turning points still stops, so that stopping says nothing', () => {
    const { ruleset, positions, findings } = game(kind, 60, []);
    expect(stopsOf(ruleset, positions, findings, 0)).toHaveLength(3);
  });
});
