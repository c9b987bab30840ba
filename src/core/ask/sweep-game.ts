import type { GameRecord } from '../game/record';
import type { PositionEvaluation } from '../review/evaluation';
import type { SearchSettings, SweepSettings } from '../review/sweep-settings';
import { evaluate, evaluationOf } from './evaluate';
import { allEnded, type Plan } from './question';
import { settleGame } from './settle-game';
import {
  sweptAlong,
  sweptPositions,
  variationsOf,
  type LineSwept,
  type Swept,
  type SweptVariation,
} from './swept';

/**
 * Goes over a game: every main-line position, or what of it and of its variations is asked for. What one answer is missing for does not
 * keep it from telling of all that follows from the others.
 */
export const sweepGame = (record: GameRecord, settings: SweepSettings): Plan<Swept> =>
  'average' in settings ? settleLines(record, settings) : evaluateGame(record, settings);

/** Goes over several lines at a time, each by itself: where they have moves in common, so have they questions. */
const settleLines =
  (
    record: GameRecord,
    { average, moves: { over, ...scope } = {} }: Extract<SweepSettings, { average: unknown }>,
  ): Plan<Swept> =>
  async (ask, tell) => {
    const { tree } = record;
    const { side } = scope;
    const variations = over === undefined ? [] : variationsOf(tree, scope);
    const plans = variations.map(({ nodes, from }) =>
      settleGame(tree.kind, sweptAlong(tree, nodes), average, {
        from,
        ...(side === undefined ? {} : { side }),
      }),
    );
    if (over !== 'variations')
      plans.push(settleGame(tree.kind, sweptPositions(record), average, scope));
    const found: (LineSwept | null)[] = plans.map(() => null);
    const sum = (name: 'done' | 'total'): number =>
      found.reduce((all, one) => all + (one?.[name] ?? 0), 0);
    const soFar = (): Swept => ({
      done: sum('done'),
      total: sum('total'),
      evaluations: () =>
        over === 'variations'
          ? sweptPositions(record).map(() => null)
          : (found.at(-1)?.evaluations() ?? []),
      variations: () =>
        variations.map((line, index): SweptVariation => ({
          ...line,
          evaluations: found[index]?.evaluations() ?? [],
        })),
    });
    await allEnded(
      plans.map(async (plan, index) => {
        found[index] = await plan(ask, (swept) => {
          found[index] = swept;
          // each tells at once how much there is, and all do before the first answer
          if (!found.includes(null)) tell(soFar());
        });
      }),
    );
    return soFar();
  };

/** Looks at every position alike. */
const evaluateGame =
  (record: GameRecord, settings: SearchSettings): Plan<Swept> =>
  async (ask, tell) => {
    const positions = sweptPositions(record);
    const found: (PositionEvaluation | null)[] = positions.map(() => null);
    const left = positions.filter(({ over }) => over === null);
    const total = positions.length;
    let done = total - left.length;
    const soFar = (): Swept => ({
      done,
      total,
      evaluations: () => found,
      variations: () => [],
    });
    await allEnded(
      left.map(async (position) => {
        const looked = await evaluate(ask, record.tree.kind, position, settings);
        found[position.ply] = evaluationOf(looked);
        done++;
        tell(soFar());
      }),
    );
    return soFar();
  };
