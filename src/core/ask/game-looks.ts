import type { Ruleset } from '../game/ruleset';
import type { Score } from '../game/score';
import { chanceOf, lossOf } from '../review/chance';
import { EXACT_DEPTH, type EvaluatedLine, type PositionEvaluation } from '../review/evaluation';
import { takesBack } from '../review/review';
import type { Seen } from '../review/seen';
import { keepsAlone, THRESHOLDS } from '../review/verdict';
import { verdictHolds, type MoveLook } from '../review/verdict-holds';
import type { Sight } from './how-far-ahead';
import type { Answer } from './question';
import type { SweptPosition } from './swept';

/**
 * What the looks at a position take, one after the other, each four times the one before, in shares of the average effort: so that over
 * whole games it comes to about that, and no position, with all that is compared there, to more than five times as much.
 */
export const LOOKS = [0.168, 0.672, 2.688] as const;
/** The short look, which every position is given. */
export const SHORT = 0;
/** Of what all moves of a game take, the part of one side's: the short look at every position, and half of the rest. */
export const ONE_SIDE = (1 + LOOKS[SHORT]) / 2;
/** Points by which a position may change with a look before what follows it is looked at as long. */
const CHANGED = 3;

/** What a position is worth, by its own looks or by those at later positions of the game. */
interface Worth {
  line: EvaluatedLine;
  depth: number;
  /** The look that says so; the rules, and what is known exactly, stand above all looks. */
  look: number;
}

/** How deep a position is known by what comes after it: where that is exact, its other moves are known by its own search alone. */
const depthBefore = (after: number, own: number): number =>
  after === EXACT_DEPTH ? own : after + 1;

/** What looks of growing effort have found at the positions of a game, and what that says of its moves. */
export class GameLooks {
  /** By ply, then by look. */
  private readonly looks: (Answer | undefined)[][];
  /** By ply: several lines side by side, each answer taking the place of one that says less. */
  private readonly compared: (Answer | undefined)[];
  /** By ply: how far ahead what there is to see was seen. */
  private readonly seen: (Seen | undefined)[];
  private readonly counts: number[];

  constructor(
    private readonly ruleset: Ruleset,
    private readonly positions: readonly SweptPosition[],
  ) {
    this.looks = positions.map(() => []);
    this.compared = positions.map(() => undefined);
    this.seen = positions.map(() => undefined);
    this.counts = positions.map(() => 0);
  }

  look(ply: number, index: number): Answer | undefined {
    return this.looks[ply]![index];
  }

  addLook(ply: number, index: number, answer: Answer): void {
    this.looks[ply]![index] = answer;
    this.counts[ply]!++;
  }

  addComparison(ply: number, answer: Answer): void {
    this.counts[ply]!++;
    const known = this.compared[ply];
    const isMore =
      !known ||
      answer.lines.length > known.lines.length ||
      (answer.lines.length === known.lines.length && answer.depth >= known.depth);
    if (isMore) this.compared[ply] = answer;
  }

  addSeen(ply: number, seen: Seen): void {
    this.counts[ply]!++;
    this.seen[ply] = seen;
  }

  chance(score: Score, ply: number): number {
    return chanceOf(this.ruleset.kind, score, this.ruleset.side(this.positions[ply]!.position));
  }

  /** There was a move to choose, and one was played. */
  isChoice(ply: number): boolean {
    const at = this.positions[ply];
    if (!at || at.played === null || at.over !== null) return false;
    return this.ruleset.choices(at.position).length > 1;
  }

  /** The move played takes back where the other side has just moved: it need not be found. */
  takesBack(ply: number): boolean {
    const [before, now] = [this.positions[ply - 1]?.played, this.positions[ply]?.played];
    if (!before || !now) return false;
    const { parseCode } = this.ruleset;
    return takesBack(parseCode(now)!, parseCode(before)!);
  }

  /** What the looks of one effort say of the move played at a ply; null until both are there. */
  move(ply: number, index: number): MoveLook | null {
    const [best] = this.look(ply, index)?.lines ?? [];
    const { over } = this.positions[ply + 1]!;
    const played = over ?? this.look(ply + 1, index)?.lines[0]?.score;
    if (!best || !played) return null;
    return {
      best: this.chance(best.score, ply),
      played: this.chance(played, ply),
      isBest: best.moves[0] === this.positions[ply]!.played,
    };
  }

  /** A look has found another best move than the one before it, or another value. */
  hasChanged(ply: number, index: number): boolean {
    const [now, before] = [this.look(ply, index)?.lines[0], this.look(ply, index - 1)?.lines[0]];
    if (!now || !before) return false;
    return (
      now.moves[0] !== before.moves[0] ||
      Math.abs(this.chance(now.score, ply) - this.chance(before.score, ply)) >= CHANGED
    );
  }

  /** The verdict on a move might still change after the looks of one effort. */
  isOpen(ply: number, index: number): boolean {
    const now = this.move(ply, index);
    if (!now) return false;
    if (index === SHORT) return !verdictHolds(now, null);
    const before = this.move(ply, index - 1);
    return before !== null && !verdictHolds(now, before);
  }

  /** By ply, as far as anything is known: later looks stand above earlier ones, and are taken back to the moves before them. */
  evaluations(): (PositionEvaluation | null)[] {
    const evaluations: (PositionEvaluation | null)[] = this.positions.map(() => null);
    let after: Worth | null = null;
    for (let ply = this.positions.length - 1; ply >= 0; ply--) {
      const { over, played } = this.positions[ply]!;
      const index = this.looks[ply]!.length - 1;
      const own = this.look(ply, index);
      const [best] = own?.lines ?? [];
      if (over !== null) {
        after = { line: { score: over, moves: [] }, depth: 0, look: Infinity };
        continue;
      }
      if (!own || !best) {
        after = null;
        continue;
      }
      const playedLine = played === null || !after ? null : before(played, after.line);
      const isBest = best.moves[0] === played;
      const isExact = own.depth === EXACT_DEPTH;
      const takes: boolean =
        !isExact &&
        playedLine !== null &&
        (isBest
          ? after!.look > index
          : after!.look >= index &&
            this.chance(playedLine.score, ply) > this.chance(best.score, ply));
      const worth: Worth = takes
        ? { line: playedLine!, depth: depthBefore(after!.depth, own.depth), look: after!.look }
        : { line: best, depth: own.depth, look: isExact ? Infinity : index };
      const [compared, seen] = [this.compared[ply], this.seen[ply]];
      evaluations[ply] = {
        depth: worth.depth,
        lines: [worth.line],
        ...(isBest || takes || !playedLine ? {} : { played: playedLine }),
        ...(compared ? { compared: compared.lines } : {}),
        ...(seen ? { seen } : {}),
        ...(this.isChoice(ply) && this.isOpen(ply, this.lastLook(ply))
          ? { isUnsettled: true }
          : {}),
        answers: this.countsFrom(ply),
      };
      after = worth;
    }
    return evaluations;
  }

  /** By ply: what there is to see where a move is an error, or was the only one. */
  sights(): [number, Sight][] {
    const { kind, side } = this.ruleset;
    return this.evaluations().flatMap((found, ply): [number, Sight][] => {
      const { position, played: move } = this.positions[ply]!;
      const [best] = found?.lines ?? [];
      if (!found || !best || move === null || !this.isChoice(ply)) return [];
      const lossTo = (score: Score): number => lossOf(kind, best.score, score, side(position));
      const loss = found.played ? lossTo(found.played.score) : 0;
      if (loss >= THRESHOLDS.inaccuracy)
        return [[ply, { error: move, better: best.moves[0]!, loss }]];
      const [first, second] = found.compared ?? [];
      if (!first || !second || this.takesBack(ply)) return [];
      const margin = lossOf(kind, first.score, second.score, side(position));
      return keepsAlone(loss, margin) ? [[ply, { find: move }]] : [];
    });
  }

  /** The longest look that there is both before and after the move at a ply. */
  private lastLook(ply: number): number {
    let index = 0;
    while (index + 1 < this.looks[ply]!.length && this.move(ply, index + 1)) index++;
    return index;
  }

  /** Of all that the evaluation at a ply may rest on. */
  private countsFrom(ply: number): number {
    return this.counts.slice(ply, ply + 4).reduce((sum, count) => sum + count, 0);
  }
}

/** A line with one move more before it, a mate one ply further away. */
const before = (code: string, { score, moves }: EvaluatedLine): EvaluatedLine => ({
  score: score.kind === 'mate' ? { ...score, plies: score.plies + 1 } : score,
  moves: [code, ...moves],
});
