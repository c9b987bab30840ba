import { PHASES, type Phase, type Ruleset } from '../game/ruleset';

/** The phase of each position of a line; a game does not go back to an earlier one. */
export function phasesAlong<P>(ruleset: Ruleset<P>, positions: readonly P[]): Phase[] {
  let latest = 0;
  return positions.map((position) => {
    latest = Math.max(latest, PHASES.indexOf(ruleset.phase(position)));
    return PHASES[latest]!;
  });
}
