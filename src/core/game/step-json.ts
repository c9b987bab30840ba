import { rulesetOf } from '../rulesets';
import type { GameKind } from './ruleset';
import type { Branch, BranchNode, Step } from './steps';

/** A step as it is stored: its moves in UCI or USI, so that it outlives the way in which moves are packed. */
export type StepJson =
  | Exclude<Step, { type: 'insert' }>
  | (Omit<Extract<Step, { type: 'insert' }>, 'branch'> & {
      branch: readonly (Omit<BranchNode, 'move'> & { move: string })[];
    });

export function stepToJson(kind: GameKind, step: Step): StepJson {
  if (step.type !== 'insert') return step;
  const { code } = rulesetOf(kind);
  return { ...step, branch: step.branch.map((node) => ({ ...node, move: code(node.move) })) };
}

/** Reads what {@link stepToJson} wrote. @throws Error where a move is none */
export function stepFromJson(kind: GameKind, step: StepJson): Step {
  if (step.type !== 'insert') return step;
  const { parseCode } = rulesetOf(kind);
  const branch = step.branch.map(({ move: code, ...node }) => {
    const move = parseCode(code);
    if (move === null) throw new Error(`${code} is no move`);
    return { ...node, move };
  });
  return { ...step, branch: branch as unknown as Branch };
}
