import type { GameRecord } from '../game/record';
import type { PositionEvaluation } from '../review/evaluation';
import type { SearchSettings, SweepSettings } from '../review/sweep-settings';
import { evaluate, evaluationOf } from './evaluate';
import { allEnded, type Plan } from './question';
import { settleGame } from './settle-game';
import { sweptPositions, type Swept } from './swept';

/**
 * Goes over every main-line position of a game. What one answer is missing for does not keep it from telling of all that follows from
 * the others.
 */
export const sweepGame = (record: GameRecord, settings: SweepSettings): Plan<Swept> =>
  'average' in settings
    ? settleGame(record.tree.kind, sweptPositions(record), settings.average, settings.moves)
    : evaluateGame(record, settings);

/** Looks at every position alike. */
const evaluateGame =
  (record: GameRecord, settings: SearchSettings): Plan<Swept> =>
  async (ask, tell) => {
    const positions = sweptPositions(record);
    const found: (PositionEvaluation | null)[] = positions.map(() => null);
    const left = positions.filter(({ over }) => over === null);
    const total = positions.length;
    let done = total - left.length;
    await allEnded(
      left.map(async (position) => {
        const looked = await evaluate(ask, record.tree.kind, position, settings);
        found[position.ply] = evaluationOf(looked);
        tell({ done: ++done, total, evaluations: () => found });
      }),
    );
    return { done, total, evaluations: () => found };
  };
