import type { Continuation } from '@/core/base/block';
import { suits, type BaseFilter, type FactColumns } from '@/core/base/facts';
import { tallyOf, usualScore, type Tally } from '@/core/base/move-figures';
import { NO_SCORE, plusScore, type Score } from '@/core/game/score-share';
import type { Side } from '@/core/game/ruleset';
import { playedIn, type LoadedBase, type LoadedSegment } from './loaded-base';
import { Recent } from './recent';

/** What games that suit a filter came to at a position, where a side is to move. */
export interface Wanted {
  key: bigint;
  toMove: Side;
  filter: BaseFilter;
  /** Leaves out what another position of the same key had played. */
  legal(played: readonly Continuation[]): Continuation[];
}

/**
 * What one process keeps of segments, whose games never change but that some leave: tallies of positions that many games met, and
 * scores of all games. So a base that grows is not counted anew.
 */
const MOST_TALLIES = 2000;
const MOST_SCORES = 5000;
/** From so many games on, whether they suit or not. */
const MANY = 1000;

const store = globalThis as {
  bektraTallies?: Recent<string, Tally>;
  bektraScores?: Recent<string, Score>;
};
const tallies = (): Recent<string, Tally> => (store.bektraTallies ??= new Recent(MOST_TALLIES));
const scores = (): Recent<string, Score> => (store.bektraScores ??= new Recent(MOST_SCORES));

const nameIn = ({ id, gone }: LoadedSegment, asked: string): string => `${id} ${gone} ${asked}`;

/** The tallies of each of some positions, by segments. */
export async function talliesAt(base: LoadedBase, some: readonly Wanted[]): Promise<Tally[][]> {
  const names = some.map(({ key, toMove, filter }) => `${key} ${toMove} ${JSON.stringify(filter)}`);
  const known = new Map<string, Tally>();
  const isKnown = (segment: LoadedSegment, at: number): boolean => {
    const name = nameIn(segment, names[at]!);
    const tally = tallies().get(name);
    if (tally) known.set(name, tally);
    return tally !== undefined;
  };
  const { base: now, played } = await playedIn(
    base,
    some.map(({ key }) => key),
    isKnown,
  );
  return some.map((wanted, at) =>
    played[at]!.map(({ segment, read }) => {
      const name = nameIn(segment, names[at]!);
      const kept = known.get(name) ?? tallies().get(name);
      if (kept) return kept;
      const continuations = read();
      const tally = tallyIn(now.facts, wanted, continuations);
      const met = continuations.reduce((sum, { games }) => sum + games.length, 0);
      if (met >= MANY) tallies().set(name, tally, 1);
      return tally;
    }),
  );
}

const tallyIn = (
  facts: FactColumns,
  { toMove, filter, legal }: Wanted,
  played: readonly Continuation[],
): Tally =>
  tallyOf(facts, { continuations: legal(played), toMove, isWanted: suits(facts, filter, toMove) });

/** What all games that suit came to for the side to move. */
export const usualIn = (
  base: LoadedBase,
  { toMove, filter }: Pick<Wanted, 'toMove' | 'filter'>,
): Score =>
  base.segments
    .map((segment) => {
      const name = nameIn(segment, `${toMove} ${JSON.stringify(filter)}`);
      const known = scores().get(name);
      if (known) return known;
      const { from, to } = segment;
      const isWanted = suits(base.facts, filter, toMove);
      const score = usualScore(base.facts, toMove, isWanted, [from, to]);
      scores().set(name, score, 1);
      return score;
    })
    .reduce(plusScore, NO_SCORE);
