import type { Ruleset, Side } from '@/core/game/ruleset';
import { drawLine, valueFor } from '../draw';
import { searchLast } from '../search-last';
import type { SearchModule } from '../search-module';

/** A quiet position of a game of self-play or of an aside from it, all from the view of the side to move. */
export interface Sample {
  /** FEN or SFEN. */
  position: string;
  /** Hundredths of a pawn, as the search saw it. */
  score: number;
  /** How the game ended: 1 won, 0.5 drawn, 0 lost; null for an aside, which no game went on from. */
  result: number | null;
}

const NO_RESULT = '-';

export const sampleLine = ({ position, score, result }: Sample): string =>
  `${position}\t${score}\t${result ?? NO_RESULT}\n`;

const SAMPLE_LINE = /^([^\t]+)\t(-?\d+)\t(1|0|0\.5|-)$/;

/** What a line tells, or null where its writer was ended in the middle of it. */
export function readSample(line: string): Sample | null {
  const [, position, score, result] = SAMPLE_LINE.exec(line) ?? [];
  return position === undefined
    ? null
    : { position, score: Number(score), result: result === NO_RESULT ? null : Number(result) };
}

/**
 * Expected score of the side to move that a sample speaks for, 0–1.
 * @param trust how much of it is the search's score, 0–1; the rest is the game's result
 * @param chanceScale hundredths of a pawn by which the odds grow e-fold
 */
export function targetOf({ score, result }: Sample, trust: number, chanceScale: number): number {
  const seen = 1 / (1 + Math.exp(-score / chanceScale));
  return result === null ? seen : trust * seen + (1 - trust) * result;
}

const OPENING = { nodes: 300, lines: 6, temperature: 60 };

/** A sensible but varied opening: each move is drawn among the better ones of a short search. */
export function drawOpening<P>(
  ruleset: Ruleset<P>,
  module: SearchModule,
  random: () => number,
  plies: number,
): { codes: string[]; positions: P[] } {
  const positions = [ruleset.start()];
  const codes: string[] = [];
  for (let ply = 0; ply < plies; ply++) {
    const position = positions.at(-1)!;
    const side = ruleset.side(position);
    const { nodes, lines: most } = OPENING;
    const { lines } = searchLast(ruleset, module, positions, { nodes, lines: most, fresh: false });
    if (lines.length === 0) break;
    const code = drawLine(lines, side, OPENING.temperature, random).moves[0]!;
    codes.push(code);
    positions.push(ruleset.play(position, ruleset.parseCode(code)!));
  }
  return { codes, positions };
}

const MOST_PLIES = 320;
const DECIDED = { score: 1500, plies: 5 };
const LEVEL = { score: 8, plies: 14, from: 90 };
const MOST_SCORE = 2500;
/** How often a game is left for an aside, and for how many plies after the move that leaves it. */
const ASIDE = { share: 0.15, plies: 2 };

/**
 * Plays one game against itself at a fixed number of nodes a move and keeps its quiet positions, and those of short
 * asides that begin with any move the rules allow: a search meets positions that no good game does.
 */
export function playSamples<P>(
  ruleset: Ruleset<P>,
  module: SearchModule,
  random: () => number,
  nodes: number,
): Sample[] {
  module.clear();
  const { positions } = drawOpening(ruleset, module, random, 6 + Math.floor(random() * 7));
  const kept: { position: string; score: number; side: Side }[] = [];
  const asides: Sample[] = [];
  /** Looks at the last of a line of positions: its value, the position the best move leads to, the sample it makes. */
  const look = (line: P[]) => {
    const position = line.at(-1)!;
    const side = ruleset.side(position);
    const [best] = searchLast(ruleset, module, line, { nodes, fresh: false }).lines;
    const score = valueFor(best!.score, side);
    const next = ruleset.play(position, ruleset.parseCode(best!.moves[0]!)!);
    const isQuiet =
      Math.abs(score) <= MOST_SCORE &&
      !ruleset.inCheck(position) &&
      !changesMaterial(ruleset, position, next);
    return { score, side, next, sample: isQuiet ? ruleset.write(position) : null };
  };
  const stepAside = (line: readonly P[]): void => {
    const moves = ruleset.moves(line.at(-1)!);
    const left = [...line, ruleset.play(line.at(-1)!, moves[Math.floor(random() * moves.length)]!)];
    for (let ply = 0; ply < ASIDE.plies; ply++) {
      const status = ruleset.status(left.at(-1)!, left.slice(0, -1));
      if (status.state === 'over' || status.claims.length > 0) return;
      const { score, next, sample } = look(left);
      if (sample !== null) asides.push({ position: sample, score, result: null });
      left.push(next);
    }
  };
  let decided = 0;
  let level = 0;
  let firstWins = 0.5;
  for (let ply = positions.length - 1; ply < MOST_PLIES; ply++) {
    const status = ruleset.status(positions.at(-1)!, positions.slice(0, -1));
    if (status.state === 'over') {
      firstWins = status.result === '1-0' ? 1 : status.result === '0-1' ? 0 : 0.5;
      break;
    }
    const claim = status.claims[0];
    if (claim) {
      if (claim.claim === 'declaration' && claim.result === 'win')
        firstWins = 1 - ruleset.side(positions.at(-1)!);
      break;
    }
    const { score, side, next, sample } = look(positions);
    if (sample !== null) kept.push({ position: sample, score, side });
    decided = Math.abs(score) >= DECIDED.score ? decided + 1 : 0;
    if (decided >= DECIDED.plies) {
      firstWins = score > 0 === (side === 0) ? 1 : 0;
      break;
    }
    level =
      ruleset.kind === 'chess' && ply >= LEVEL.from && Math.abs(score) <= LEVEL.score
        ? level + 1
        : 0;
    if (level >= LEVEL.plies) break;
    if (random() < ASIDE.share) stepAside(positions);
    positions.push(next);
  }
  return [
    ...kept.map(({ position, score, side }) => ({
      position,
      score,
      result: side === 0 ? firstWins : 1 - firstWins,
    })),
    ...asides,
  ];
}

/** Captures and promotions: what the quiescence search sees to. */
export const changesMaterial = <P>(ruleset: Ruleset<P>, before: P, after: P): boolean =>
  JSON.stringify(ruleset.materialBalance(before)) !==
  JSON.stringify(ruleset.materialBalance(after));
