import type { Move } from '@/core/game/move';
import type { GameKind, Ruleset } from '@/core/game/ruleset';
import { chanceOf } from '@/core/review/chance';
import { drawLine } from './draw';
import type { AnswerLine, Budget } from '@/core/ask/question';
import { UNTIMED, type SearchModule } from './search-module';
import { playGame, type Level } from './self-play';

/** What made-up players get wrong, and what their errors are made of. */
export interface Errors {
  /** Moves in positions that are not decided yet: either side's chance is ten points or more. */
  moves: number;
  /** Moves that lose twelve points of chance or more. */
  errors: number;
  /** Moves after which, at the end of the lines, two pawns or more or the king are lost against the best line. */
  costly: { errors: number; others: number };
  /** Errors by the depth of a search, in plies, from which on it sees at least half of such a loss. */
  seenAt: ReadonlyMap<number, number>;
}

/** Points of chance. */
const ERROR = 12;
const UNDECIDED = 10;
const DEEPER: Budget = { nodes: 20_000 };
const WELL: Level = { nodes: 2000, temperature: 28 };
const DEEPEST = 12;
/** Pawns. */
const COSTLY = 2;
/** The first plies are left out: little can be lost in them, and openings are drawn at random. */
const FROM_PLY = 16;
const TO_PLY = 90;

const VALUES: Record<GameKind, Record<string, number>> = {
  chess: { P: 1, N: 3, B: 3, R: 5, Q: 9 },
  shogi: { P: 1, L: 3, N: 3, S: 5, G: 6, B: 8, R: 10 },
};

/** The moves of a game between two players of a level. */
export const gameAt = <P>(
  ruleset: Ruleset<P>,
  module: SearchModule,
  level: Level,
  random: () => number,
): Move[] => {
  const plan = { start: ruleset.startText, opening: [], levelAt: () => level, random };
  return playGame(ruleset, module, plan).moves.map(({ move }) => move);
};

/** The same by players who move well but for a share of moves, which are any that the rules allow: to compare with. */
export function gameWithRandomMoves<P>(
  ruleset: Ruleset<P>,
  module: SearchModule,
  share: number,
  random: () => number,
): Move[] {
  const { kind } = ruleset;
  const positions = [ruleset.start()];
  const moves: Move[] = [];
  for (let ply = 0; ply < TO_PLY; ply++) {
    const [position, history] = [positions.at(-1)!, positions.slice(0, -1)];
    if (ruleset.status(position, history).state === 'over') break;
    const all = ruleset.moves(position);
    const root = ruleset.searchRoot(position, history);
    const search = { kind, root, budget: { nodes: WELL.nodes }, lines: 5, fresh: true };
    const move =
      ply >= FROM_PLY && random() < share
        ? all[Math.floor(random() * all.length)]!
        : ruleset.parseCode(
            drawLine(
              module.search(search, UNTIMED).lines,
              ruleset.side(position),
              WELL.temperature,
              random,
            ).moves[0]!,
          )!;
    moves.push(move);
    positions.push(ruleset.play(position, move));
  }
  return moves;
}

/** Pawns that side 0 is ahead by at the end of a line; infinite where it mates. */
function materialAfter<P>(ruleset: Ruleset<P>, position: P, { moves, score }: AnswerLine): number {
  if (score.kind === 'mate') return score.winner === 0 ? Infinity : -Infinity;
  const end = moves.reduce((at, code) => ruleset.play(at, ruleset.parseCode(code)!), position);
  return ruleset
    .materialBalance(end)
    .reduce((sum, { piece, count }) => sum + count * VALUES[ruleset.kind][piece]!, 0);
}

/** The chance of the best line, and the points of it and the pawns that a move loses, as a search sees them. */
export function lossOf<P>(
  ruleset: Ruleset<P>,
  module: SearchModule,
  position: P,
  move: Move,
  { budget, lines = 1 }: { budget: Budget; lines?: number },
): { chance: number; points: number; pawns: number } {
  const { kind } = ruleset;
  const [code, side] = [ruleset.code(move), ruleset.side(position)];
  const root = ruleset.searchRoot(position, []);
  const search = (only?: string[]): readonly AnswerLine[] =>
    module.search({ kind, root, budget, lines, fresh: true, only }, UNTIMED).lines;
  const found = search();
  const best = found[0]!;
  const line = found.find(({ moves }) => moves[0] === code) ?? search([code])[0]!;
  const chance = chanceOf(kind, best.score, side);
  const pawns =
    best === line
      ? 0
      : materialAfter(ruleset, position, best) - materialAfter(ruleset, position, line);
  return {
    chance,
    points: chance - chanceOf(kind, line.score, side),
    pawns: Number.isNaN(pawns) ? 0 : side === 0 ? pawns : -pawns,
  };
}

/** Looks the moves of games from the start position over with deeper searches. */
export function errorsIn<P>(
  ruleset: Ruleset<P>,
  module: SearchModule,
  games: readonly (readonly Move[])[],
): Errors {
  const seenAt = new Map<number, number>();
  const count = { moves: 0, errors: 0, costly: { errors: 0, others: 0 }, seenAt };

  for (const moves of games) {
    let position = ruleset.start();
    moves.slice(0, TO_PLY).forEach((move, ply) => {
      const before = position;
      position = ruleset.play(before, move);
      if (ply < FROM_PLY) return;
      const { chance, points, pawns } = lossOf(ruleset, module, before, move, { budget: DEEPER });
      if (chance < UNDECIDED || chance > 100 - UNDECIDED) return;
      const isError = points >= ERROR;
      count.moves++;
      if (pawns >= COSTLY) count.costly[isError ? 'errors' : 'others']++;
      if (!isError) return;
      count.errors++;
      const sees = (depth: number): boolean =>
        lossOf(ruleset, module, before, move, { budget: { depth } }).points >= ERROR / 2;
      let depth = 1;
      while (depth <= DEEPEST && !sees(depth)) depth++;
      seenAt.set(depth, (seenAt.get(depth) ?? 0) + 1);
    });
  }
  return count;
}
