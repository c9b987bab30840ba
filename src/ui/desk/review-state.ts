import type { Comparison, ReviewState, SweepStatus } from '@/contract/review';
import type { GameRecord } from '@/core/game/record';
import {
  findingsAlong,
  findingsFrom,
  mainLineCodes,
  type SweepFindings,
} from '@/core/review/findings';
import { knownAnswers } from '@/core/review/known-answers';
import type { PositionEvaluation } from '@/core/review/evaluation';
import type { Findings } from '@/core/review/review';

/** What a page knows of the sweep that is shown. */
export interface KnownSweep {
  sweep: SweepStatus;
  /** The main line whose positions were looked at, in UCI or USI. */
  line: readonly string[];
  /** By ply; null where nothing is known. */
  evaluations: readonly (PositionEvaluation | null)[];
  /** Of the whole game, as the server tells it once the sweep is complete. */
  complete: SweepFindings | null;
  /** What the sweep before said otherwise. */
  comparison: Comparison | null;
  /** Else of what has been found so far. */
  partial: SweepFindings | null;
}

export interface KnownReview {
  /** The latest sweep. */
  sweep: SweepStatus | null;
  shown: KnownSweep | null;
}

const isSameLine = (one: readonly string[], other: readonly string[]): boolean =>
  one.length === other.length && one.every((code, index) => code === other[index]);

/** What of a review still has to be asked for; nothing of it is known where the line is another. */
export function askedOf(
  { shown }: KnownReview,
  record: GameRecord,
): { has?: number; complete?: '1'; known?: string } {
  if (!shown || !isSameLine(shown.line, mainLineCodes(record))) return {};
  const { evaluations, complete, sweep } = shown;
  if (complete) return { has: sweep.id, complete: '1' };
  return { has: sweep.id, known: knownAnswers(evaluations) };
}

/** What is known with the news, and what has been found so far reckoned from it where the game is the one gone over. */
export function withNews(
  before: KnownReview,
  { sweep, shown: news }: ReviewState,
  record: GameRecord,
): KnownReview {
  if (!news) return { sweep, shown: null };
  const { line } = news;
  const known =
    before.shown?.sweep.id === news.sweep.id && isSameLine(before.shown.line, line)
      ? before.shown
      : null;
  const evaluations: (PositionEvaluation | null)[] = known
    ? [...known.evaluations]
    : [null, ...line].map(() => null);
  for (const [ply, found] of news.evaluations) evaluations[ply] = found;
  const complete = news.findings ?? known?.complete ?? null;
  const isReckoned = complete === null && isSameLine(line, mainLineCodes(record));
  const earlier = known?.partial && { evaluations: known.evaluations, ...known.partial };
  return {
    sweep,
    shown: {
      sweep: news.sweep,
      line,
      evaluations,
      complete,
      comparison: news.findings ? news.comparison : (known?.comparison ?? null),
      partial: isReckoned ? findingsFrom(record, evaluations, earlier ?? undefined) : null,
    },
  };
}

/** What is said of a main line as it is now; null where nothing is. */
export function findingsFor({ shown }: KnownReview, codes: readonly string[]): Findings | null {
  const found = shown?.complete ?? shown?.partial;
  return found ? findingsAlong(found, codes) : null;
}
