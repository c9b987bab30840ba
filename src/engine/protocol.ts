import type { Answer, AnswerLine } from '@/core/ask/question';
import { otherSide, type GameKind, type Side } from '@/core/game/ruleset';
import { cpScore, matePliesToMoves, mateScore, type Score } from '@/core/game/score';

/** The words of UCI and of USI, where they differ. */
export interface Protocol {
  kind: GameKind;
  hello: string;
  ok: string;
  newGame: string;
  /** Before a position. */
  setup: string;
  /** Mates are told in moves (UCI) or plies (USI). */
  mateIn: 'moves' | 'plies';
  /** Name of the option for the size of the table. */
  hash: string;
  /** Of the clock and of the increment, by side. */
  times: readonly [string, string];
  increments: readonly [string, string];
  /** What is answered where there is no move. */
  noMove: string;
}

export const PROTOCOLS: Record<GameKind, Protocol> = {
  chess: {
    kind: 'chess',
    hello: 'uci',
    ok: 'uciok',
    newGame: 'ucinewgame',
    setup: 'fen',
    mateIn: 'moves',
    hash: 'Hash',
    times: ['wtime', 'btime'],
    increments: ['winc', 'binc'],
    noMove: '0000',
  },
  shogi: {
    kind: 'shogi',
    hello: 'usi',
    ok: 'usiok',
    newGame: 'usinewgame',
    setup: 'sfen',
    mateIn: 'plies',
    hash: 'USI_Hash',
    times: ['btime', 'wtime'],
    increments: ['binc', 'winc'],
    noMove: 'resign',
  },
};

/** How an engine is told in how many lines to search. */
export const LINES_OPTION = 'MultiPV';

/** `cp 31` or `mate -4`, from the view of the side to move. */
export function writeScore({ mateIn }: Protocol, score: Score, side: Side): string {
  if (score.kind === 'cp') return `cp ${side === 0 ? score.cp : 0 - score.cp}`;
  const count = mateIn === 'moves' ? matePliesToMoves(score.plies) : score.plies;
  return `mate ${score.winner === side ? '' : '-'}${count}`;
}

/** Reads what {@link writeScore} writes; null where it is something else. */
export function readScore(
  { mateIn }: Protocol,
  unit: string | undefined,
  value: number,
  side: Side,
): Score | null {
  if (!Number.isFinite(value)) return null;
  if (unit === 'cp') return cpScore(side === 0 ? value : 0 - value);
  if (unit !== 'mate') return null;
  const count = Math.abs(value);
  const wins = value > 0;
  const plies = mateIn === 'plies' ? count : wins ? 2 * count - 1 : 2 * count;
  return mateScore(plies, wins ? side : otherSide(side));
}

/** One `info` line for each line of an answer. */
export function writeInfo(
  protocol: Protocol,
  { depth, selectiveDepth, nodes, milliseconds, lines }: Answer,
  side: Side,
): string[] {
  const time = Math.round(milliseconds);
  const speed = Math.round((nodes / Math.max(1, milliseconds)) * 1000);
  return lines.map(
    ({ score, moves }, index) =>
      `info depth ${depth} seldepth ${selectiveDepth ?? depth} multipv ${index + 1} score ${writeScore(protocol, score, side)} nodes ${nodes} nps ${speed} time ${time} pv ${moves.join(' ')}`,
  );
}

/** What an `info` line tells of a line, or null where it tells of none: a bound is no score. */
export function readInfo(
  protocol: Protocol,
  text: string,
  side: Side,
): { index: number; line: AnswerLine; info: Omit<Answer, 'lines'> } | null {
  const words = text.split(/\s+/);
  if (words[0] !== 'info') return null;
  const after = (word: string): number => {
    const at = words.indexOf(word);
    return at < 0 ? NaN : Number(words[at + 1]);
  };
  const pv = words.indexOf('pv');
  const scored = words.indexOf('score');
  if (pv < 0 || scored < 0 || words.includes('lowerbound') || words.includes('upperbound'))
    return null;
  const score = readScore(protocol, words[scored + 1], Number(words[scored + 2]), side);
  const moves = words.slice(pv + 1);
  if (!score || moves.length === 0) return null;
  return {
    index: (after('multipv') || 1) - 1,
    line: { score, moves },
    info: {
      depth: after('depth') || 0,
      selectiveDepth: after('seldepth') || after('depth') || 0,
      nodes: after('nodes') || 0,
      milliseconds: after('time') || 0,
    },
  };
}
