import type { Result as GameResult } from '../game/result';
import { SIDES, type Side } from '../game/ruleset';
import type { Result } from './exact';
import { turnedName } from './reached';

/** What is stored of an ending, or of a mate, that a game came to. */
export interface StoredEnding {
  ply: number;
  name: string;
  /** For side 0: 1 won, 0 drawn, -1 lost; null where nobody knows. */
  worth: number | null;
  isPassing: boolean;
  isLetGo: boolean;
}

/** An ending as one side had it. */
export interface OwnEnding {
  ply: number;
  /** That side's pieces first; of a mate, its plies. */
  name: string;
  /** What it was worth at first; null where nobody knows. */
  worth: Result | null;
  /** What it came to: what the next ending of the game was worth, or how the game ended; null where that is not known. */
  became: Result | null;
}

const RESULTS: readonly Result[] = ['loss', 'draw', 'win'];

/** For a side, by what it is for side 0. */
const resultFor = (side: Side, worth: number): Result =>
  RESULTS[(side === SIDES[0] ? worth : -worth) + 1]!;

const worthOfGame = (result: GameResult): number | null =>
  result === '1-0' ? 1 : result === '0-1' ? -1 : result === '1/2-1/2' ? 0 : null;

/** The endings of a game, as a side had them; without those in the middle of an exchange. @param stored all of the game, in its order */
export function ownEndings(
  stored: readonly StoredEnding[],
  result: GameResult,
  side: Side,
): OwnEnding[] {
  return stored.flatMap(({ ply, name, worth, isPassing, isLetGo }, index) => {
    if (isPassing) return [];
    const isMate = !name.includes(' ');
    const next = isMate ? undefined : stored[index + 1];
    const became = isLetGo ? 0 : next ? next.worth : worthOfGame(result);
    return [
      {
        ply,
        name: isMate || side === SIDES[0] ? name : turnedName(name),
        worth: worth === null ? null : resultFor(side, worth),
        became: became === null ? null : resultFor(side, became),
      },
    ];
  });
}

/** Endings of one worth: how many, and how many of those came to at least as much. */
export interface Kept {
  of: number;
  kept: number;
}

/** Whether it came to at least as much; a lost one is kept where it is saved. */
export const isKept = (worth: Result, became: Result): boolean =>
  worth === 'loss' ? became !== 'loss' : RESULTS.indexOf(became) >= RESULTS.indexOf(worth);

/** What a side did with the endings of one name. */
export interface EndingTally {
  win: Kept;
  draw: Kept;
  loss: Kept;
  /** Of which nobody knows what they were worth, or what became of them. */
  unknown: number;
}

/** Won positions that were won, drawn ones that were held or won, lost ones that were saved. */
export function tallyOf(endings: readonly Pick<OwnEnding, 'worth' | 'became'>[]): EndingTally {
  const tally: EndingTally = {
    win: { of: 0, kept: 0 },
    draw: { of: 0, kept: 0 },
    loss: { of: 0, kept: 0 },
    unknown: 0,
  };
  for (const { worth, became } of endings) {
    if (worth === null || became === null) {
      tally.unknown++;
      continue;
    }
    const kept = tally[worth];
    kept.of++;
    if (isKept(worth, became)) kept.kept++;
  }
  return tally;
}
