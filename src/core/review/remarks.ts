import * as z from 'zod';
import type { GameKind } from '../game/ruleset';
import { CHANCE_SCALE } from './chance';
import { missedMate, type MoveReview } from './review';
import { isFlag, THRESHOLDS, type Verdict } from './verdict';

export const REMARK_FORMS = ['figures', 'symbols', 'words'] as const;

/** How what a sweep has found is put beside the moves, in the sheet and in what goes out. */
export const remarksSchema = z.object({
  /** The smallest loss that is worth a remark, in chance points. */
  least: z.coerce.number().min(1).max(100),
  /** Half moves of a better line that are kept; none: no line. */
  lineMoves: z.coerce.number().int().min(0).max(60),
  /** An evaluation stands at each move. */
  evaluations: z.union([z.boolean(), z.stringbool()]),
  form: z.enum(REMARK_FORMS),
});
export type Remarks = z.infer<typeof remarksSchema>;

export const USUAL_REMARKS: Remarks = {
  least: THRESHOLDS.inaccuracy,
  lineMoves: 8,
  evaluations: true,
  form: 'figures',
};

/** The verdict that is shown: none for errors too small to be remarked. */
export const shownVerdict = ({ verdict, loss }: MoveReview, { least }: Remarks): Verdict =>
  isFlag(verdict) && loss < least ? 'none' : verdict;

/** Whether a move gives away enough for a remark, was the only one and hard to find, or missed a mate that is proved. */
export const isRemarked = (found: MoveReview, { least }: Remarks): boolean =>
  found.loss >= least ||
  found.verdict === 'good' ||
  found.verdict === 'very good' ||
  missedMate(found) !== null;

/** Hundredths of a pawn that a loss of chance points comes to where the game was level before. @param points 0 … 50, not included */
export const centipawnsOf = (kind: GameKind, points: number): number =>
  CHANCE_SCALE[kind] * Math.log((50 + points) / (50 - points));

/** As part of an address. */
export const remarksQuery = (remarks: Remarks): string =>
  new URLSearchParams(
    Object.entries(remarks).map(([name, value]) => [name, String(value)]),
  ).toString();

/** Reads what {@link remarksQuery} wrote; what is missing is as usual. Null where something is said that can be none. */
export function remarksFrom(query: Record<string, unknown>): Remarks | null {
  const { success, data } = remarksSchema.partial().safeParse(query);
  if (!success) return null;
  const said = Object.entries(data).filter(([, value]) => value !== undefined);
  return { ...USUAL_REMARKS, ...(Object.fromEntries(said) as Partial<Remarks>) };
}
