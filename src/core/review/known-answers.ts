import type { PositionEvaluation } from './evaluation';

/** How many answers each of some evaluations rests on, one sign a ply (to base 36); 0: nothing is known. */
export const knownAnswers = (evaluations: readonly (PositionEvaluation | null)[]): string =>
  evaluations.map((found) => Math.min(35, found?.answers ?? 0).toString(36)).join('');

/** What {@link knownAnswers} wrote, at a ply. */
export const answersKnown = (text: string, ply: number): number => parseInt(text[ply] ?? '0', 36);
