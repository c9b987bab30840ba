import { END_REASONS, RESULTS, winFor, type EndReason, type Result } from '../../game/result';
import { otherSide, type Side } from '../../game/ruleset';

type Outcome = 'loses' | 'wins' | 'draw' | 'open';

/** How an end word judges the side to move. */
interface EndWord {
  word: string;
  end: EndReason;
  outcome: Outcome;
}

export interface Ending {
  result: Result;
  end: EndReason;
}

export class EndWords {
  constructor(private readonly words: readonly EndWord[]) {}

  /** What a word says when `toMove` would be next to move, or null. */
  read(word: string, toMove: Side): Ending | null {
    const found = this.words.find((candidate) => candidate.word === word);
    if (!found) return null;
    const result: Record<Outcome, Result> = {
      loses: winFor(otherSide(toMove)),
      wins: winFor(toMove),
      draw: '1/2-1/2',
      open: '*',
    };
    return { result: result[found.outcome], end: found.end };
  }

  /** The word that says so, or null where the format has none. */
  write({ result, end }: { result: Result; end: EndReason | null }, toMove: Side): string | null {
    const found = this.words.find((candidate) => {
      if (candidate.end !== end) return false;
      return this.read(candidate.word, toMove)!.result === result;
    });
    return found?.word ?? null;
  }
}

export const KIF_ENDS = new EndWords([
  { word: '投了', end: 'resignation', outcome: 'loses' },
  { word: '中断', end: 'interrupted', outcome: 'open' },
  { word: '千日手', end: 'repetition', outcome: 'draw' },
  { word: '持将棋', end: 'impasse', outcome: 'draw' },
  { word: '詰み', end: 'checkmate', outcome: 'loses' },
  { word: '切れ負け', end: 'time', outcome: 'loses' },
  { word: '反則勝ち', end: 'illegal move', outcome: 'wins' },
  { word: '反則負け', end: 'illegal move', outcome: 'loses' },
  { word: '入玉勝ち', end: 'declaration', outcome: 'wins' },
  { word: '不戦勝', end: 'forfeit', outcome: 'wins' },
  { word: '不戦敗', end: 'forfeit', outcome: 'loses' },
  { word: '不詰', end: 'no mate', outcome: 'open' },
]);

export const CSA_ENDS = new EndWords([
  { word: '%TORYO', end: 'resignation', outcome: 'loses' },
  { word: '%CHUDAN', end: 'interrupted', outcome: 'open' },
  { word: '%SENNICHITE', end: 'repetition', outcome: 'draw' },
  { word: '%TIME_UP', end: 'time', outcome: 'loses' },
  { word: '%ILLEGAL_MOVE', end: 'illegal move', outcome: 'loses' },
  { word: '%JISHOGI', end: 'impasse', outcome: 'draw' },
  { word: '%KACHI', end: 'declaration', outcome: 'wins' },
  { word: '%HIKIWAKE', end: 'declaration', outcome: 'draw' },
  { word: '%MATTA', end: 'takeback', outcome: 'open' },
  { word: '%TSUMI', end: 'checkmate', outcome: 'loses' },
  { word: '%FUZUMI', end: 'no mate', outcome: 'open' },
  { word: '%ERROR', end: 'error', outcome: 'open' },
]);

/** A comment of our own that tells a result which the format has no word for: `[%result 1-0,perpetual check]`. */
export function writeStatedResult({
  result,
  end,
}: {
  result: Result;
  end: EndReason | null;
}): string | null {
  if (result === '*' && end === null) return null;
  return `[%result ${result}${end === null ? '' : `,${end}`}]`;
}

/** The result that such a comment tells, or null. */
export function readStatedResult(text: string): { result: Result; end: EndReason | null } | null {
  const match = /^\[%result ([^,\]]+)(?:,([^\]]+))?\]$/.exec(text);
  const result = RESULTS.find((known) => known === match?.[1]);
  if (!match || result === undefined) return null;
  return { result, end: END_REASONS.find((known) => known === match[2]) ?? null };
}
