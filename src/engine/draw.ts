import type { Score } from '@/core/game/score';
import type { Side } from '@/core/game/ruleset';
import { splitMix64 } from '@/core/game/random-bits';
import type { AnswerLine } from '@/core/ask/question';

/** A reproducible source of numbers in [0, 1). */
export function randomSource(seed: number): () => number {
  const next = splitMix64(BigInt(seed));
  return () => Number(next() >> 11n) / 2 ** 53;
}

const MATE_VALUE = 30_000;

/** Hundredths of a pawn for `side`; mates as a large number. */
export const valueFor = (score: Score, side: Side): number => {
  const first = score.kind === 'cp' ? score.cp : score.winner === 0 ? MATE_VALUE : -MATE_VALUE;
  return side === 0 ? first : 0 - first;
};

/** In temperatures: a line that looks worse than the best by more is never drawn. */
const ALIKE = 2;

/**
 * Draws among lines that look nearly alike, the better ones more often.
 * @param temperature hundredths of a pawn by which a line may be worse and still be drawn one time in e
 */
export function drawLine(
  lines: readonly AnswerLine[],
  side: Side,
  temperature: number,
  random: () => number,
): AnswerLine {
  const best = valueFor(lines[0]!.score, side);
  const weights = lines.map(({ score }) => {
    const worse = (best - valueFor(score, side)) / temperature;
    return worse > ALIKE ? 0 : Math.exp(-worse);
  });
  let draw = random() * weights.reduce((sum, weight) => sum + weight, 0);
  return lines[weights.findIndex((weight) => (draw -= weight) < 0)] ?? lines[0]!;
}
