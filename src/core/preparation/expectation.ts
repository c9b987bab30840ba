import type { Move } from '../game/move';
import type { Preparation, PreparedPosition } from './preparation';

/** How many games went on with a move. */
export interface Reply {
  move: Move;
  games: number;
}

/** What was played at positions, by their keys, in their order. */
export type RepliesAt = (keys: readonly bigint[]) => Promise<readonly (readonly Reply[])[]>;

/** A reply for which nothing is prepared. */
export interface Gap {
  /** `reply`: others are prepared there; `end`: the line ends there, and this is what comes most. */
  kind: 'reply' | 'end';
  at: PreparedPosition['at'];
  /** From the start to the position: one of the ways there. */
  way: readonly Move[];
  /** Null where no game goes on from there. */
  move: Move | null;
  /** Games that went on so, of those that came to the position. */
  games: number;
  of: number;
  /** In how many of one's games it is to be expected, 0 to 1. */
  expected: number;
}

/** Half moves after which nothing is expected any more: lines that repeat themselves come to an end. */
const MOST_PLIES = 200;

interface Reached {
  chance: number;
  way: readonly Move[];
}

/**
 * How often each position of a preparation is to be expected, and what is missing, the most frequent first. Of one's own moves each is
 * played as often as the others that are prepared beside it; the opponent's come as often as in the games asked (docs/accuracy.md).
 * @param least what is expected less often, 0 to 1, is not gone into
 */
export async function expectations(
  { ruleset, side, positions, starts }: Preparation,
  repliesAt: RepliesAt,
  least: number,
): Promise<{ expected: Map<bigint, number>; gaps: Gap[] }> {
  const expected = new Map<bigint, number>();
  const gaps: Gap[] = [];
  let layer = new Map<bigint, Reached>(starts.map((key) => [key, { chance: 1, way: [] }]));
  for (let ply = 0; layer.size > 0 && ply < MOST_PLIES; ply++) {
    const next = new Map<bigint, Reached>();
    const goOn = (key: bigint, chance: number, way: readonly Move[]): void => {
      const known = next.get(key);
      next.set(key, { chance: (known?.chance ?? 0) + chance, way: known?.way ?? way });
    };
    const here = [...layer].flatMap(([key, reached]) => {
      const found = positions.get(key);
      if (!found || reached.chance < least) return [];
      // where lines repeat themselves, a game comes by more than once
      expected.set(key, Math.min(1, (expected.get(key) ?? 0) + reached.chance));
      return [{ key, ...reached, ...found }];
    });
    const theirs = here.filter(({ toMove }) => toMove !== side);
    const replies = await repliesAt(theirs.map(({ key }) => key));
    for (const { moves, chance, way, toMove } of here)
      if (toMove === side)
        for (const { move, key } of moves) goOn(key, chance / moves.length, [...way, move]);
    for (const [index, { position, moves, chance, way, at }] of theirs.entries()) {
      // keys are of 64 bits: what another position of the same key had played can't be played here
      const played = replies[index]!.filter(({ move }) => ruleset.isLegal(position, move));
      const of = played.reduce((sum, { games }) => sum + games, 0);
      if (moves.length === 0) {
        const most = played.toSorted((a, b) => b.games - a.games)[0];
        const { move, games } = most ?? { move: null, games: 0 };
        gaps.push({ kind: 'end', at, way, move, games, of, expected: chance });
        continue;
      }
      for (const { move, games } of played) {
        const key = ruleset.key(ruleset.play(position, move));
        const share = (chance * games) / of;
        if (positions.get(key)?.moves.length) goOn(key, share, [...way, move]);
        else if (share >= least)
          gaps.push({ kind: 'reply', at, way, move, games, of, expected: share });
      }
    }
    layer = next;
  }
  return { expected, gaps: gaps.sort((a, b) => b.expected - a.expected) };
}
