import type { GameKind, SearchRoot, Side } from '../game/ruleset';
import { chanceOf } from '../review/chance';
import type { DepthPoint } from '../review/settled';
import type { AnswerLine, Plan } from './question';

/** A candidate with what was found of it. */
export interface Weighed {
  /** UCI or USI. */
  code: string;
  line: AnswerLine;
  depth: number;
  /** Of all searches of this candidate, in milliseconds. */
  milliseconds: number;
  curve: readonly DepthPoint[];
}

export interface WeighTask {
  kind: GameKind;
  root: SearchRoot;
  side: Side;
  candidates: readonly string[];
}

const FROM_DEPTH = 6;
const TO_DEPTH = 60;

/**
 * Weighs candidates at equal depth, one depth after the other, and tells of all of them whenever a depth is complete for all.
 * @param goesOn asked before each further depth
 */
export const weigh =
  ({ kind, root, side, candidates }: WeighTask, goesOn: () => boolean): Plan<readonly Weighed[]> =>
  async (ask, tell) => {
    let weighed: readonly Weighed[] = [];
    for (let depth = FROM_DEPTH; depth <= TO_DEPTH; depth++) {
      const found: Weighed[] = [];
      for (const code of candidates) {
        const answer = await ask({
          kind,
          root,
          budget: { depth },
          lines: 1,
          only: [code],
          fresh: false,
        });
        const [line] = answer.lines;
        if (!line) return weighed;
        const before = weighed.find((one) => one.code === code);
        const chance = chanceOf(kind, line.score, side);
        const isMate = line.score.kind === 'mate';
        found.push({
          code,
          line,
          depth,
          milliseconds: (before?.milliseconds ?? 0) + answer.milliseconds,
          curve: [...(before?.curve ?? []), { depth, chance, best: line.moves[1] ?? '', isMate }],
        });
      }
      weighed = found;
      tell(weighed);
      if (!goesOn()) break;
    }
    return weighed;
  };
