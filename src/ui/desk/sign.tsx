import { signOfNag, VERDICT_NAG, type Verdict } from '@/core/review/verdict';

const CLASS_OF_NAG: Record<number, string> = {
  1: 'good',
  2: 'mistake',
  3: 'good',
  4: 'blunder',
  6: 'inaccuracy',
  7: 'only-move',
};

/** A NAG as its sign. */
export function Sign({ nag }: { nag: number }) {
  return <span className={`sign ${CLASS_OF_NAG[nag] ?? ''}`}>{signOfNag(nag)}</span>;
}

/** The NAGs to show at a move: what is written there, else the review's verdict. */
export function signsOf(
  symbols: readonly number[] | undefined,
  verdict: Verdict | undefined,
): number[] {
  if (symbols && symbols.length > 0) return [...symbols];
  return verdict && verdict !== 'none' ? [VERDICT_NAG[verdict]] : [];
}
