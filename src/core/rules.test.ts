import { describe, expect, it } from 'vitest';
import { readPerft, readVectors } from '../../tests/support/vectors';
import { chess } from './chess/ruleset';
import { squareName } from './chess/board-geometry';
import type { Move } from './game/move';
import { perft } from './game/perft';
import type { Ruleset, Status } from './game/ruleset';
import { readFen, writeFen } from './chess/fen';
import { readSan } from './chess/san';
import { readSfen } from './shogi/sfen';
import {
  countDeclaration,
  declares24,
  declares27,
  impasseOf,
  totalPoints,
} from './shogi/declaration';
import { shogi } from './shogi/ruleset';

const MOST_NODES = 5_000_000;

describe('published move counts', () => {
  it.each(readPerft().filter((row) => row.count <= MOST_NODES))(
    '$game $position depth $depth',
    ({ game, position, depth, count }) => {
      const start = game === 'chess' ? readFen(position) : readSfen(position);
      expect(perft(start, depth)).toBe(count);
    },
  );
});

interface ChessCase {
  fen: string;
  moves: string[];
  san: string[];
  state: string;
  check: boolean;
  checkers: string[];
  ep_legal: boolean;
  after: Record<string, [string, string]>;
  ep_illegal?: string[];
  castling_illegal?: Record<string, string>;
  kind?: string;
}

function sortedByCode<P>(ruleset: Ruleset<P>, position: P): Move[] {
  return ruleset.moves(position).sort((a, b) => (ruleset.code(a) < ruleset.code(b) ? -1 : 1));
}

describe('chess positions with known answers', () => {
  const cases = [
    ...readVectors<ChessCase>('chess_cases.jsonl'),
    ...readVectors<ChessCase>('chess_special.jsonl'),
  ];
  it.each(cases)('$fen', (known) => {
    const position = chess.start(known.fen);
    const moves = sortedByCode(chess, position);
    expect(moves.map(chess.code)).toEqual(known.moves);
    expect(moves.map((move) => chess.text(position, move))).toEqual(known.san);
    expect(chess.inCheck(position)).toBe(known.check);
    const status = chess.status(position, []);
    expect(status.state === 'over' ? status.end : status.state).toBe(known.state);
    expect(position.enPassantIsLegal()).toBe(known.ep_legal);
    for (const [code, [always, legal]] of Object.entries(known.after)) {
      const next = chess.play(position, chess.parseCode(code)!);
      expect(writeFen(next)).toBe(always);
      expect(writeFen(next, { enPassant: 'legal' })).toBe(legal);
    }
    for (const refused of [
      ...(known.ep_illegal ?? []),
      ...Object.keys(known.castling_illegal ?? {}),
    ])
      expect(chess.isLegal(position, chess.parseCode(refused)!)).toBe(false);
    for (const [index, text] of known.san.entries())
      expect(readSan(position, text)).toEqual({ move: moves[index] });
    const attackers = [...position.board.keys()].filter((square) =>
      known.checkers.includes(squareName(square)),
    );
    expect(attackers).toHaveLength(known.checkers.length);
  });
});

interface ShogiCase {
  sfen: string;
  moves: string[];
  in_check: boolean;
  mate: boolean;
  after: Record<string, string>;
  excluded?: Record<string, string[]>;
  kind?: string;
}

describe('shogi positions with known answers', () => {
  const cases = [
    ...readVectors<ShogiCase>('shogi_cases.jsonl'),
    ...readVectors<ShogiCase>('shogi_special.jsonl'),
  ];
  it.each(cases)('$sfen', (known) => {
    const position = shogi.start(known.sfen);
    expect(shogi.write(position)).toBe(known.sfen);
    const moves = sortedByCode(shogi, position);
    const byText = (a: string, b: string) => (a < b ? -1 : 1);
    expect(moves.map(shogi.code)).toEqual([...known.moves].sort(byText));
    expect(shogi.inCheck(position)).toBe(known.in_check);
    expect(shogi.status(position, []).state).toBe(known.mate ? 'over' : 'ongoing');
    for (const [code, sfen] of Object.entries(known.after))
      expect(shogi.write(shogi.play(position, shogi.parseCode(code)!))).toBe(sfen);
    for (const code of Object.values(known.excluded ?? {}).flat())
      expect(shogi.isLegal(position, shogi.parseCode(code)!)).toBe(false);
  });
});

interface DeclarationCase {
  sfen: string;
  king_in_camp: boolean;
  pieces_in_camp: number;
  in_check: boolean;
  points: number;
  total_points: number;
  declare27: boolean;
  declare24: string;
}

describe('declarations with known answers', () => {
  it.each(readVectors<DeclarationCase>('shogi_declarations.jsonl'))('$sfen', (known) => {
    const position = shogi.start(known.sfen);
    const count = countDeclaration(position);
    expect(count).toEqual({
      kingInCamp: known.king_in_camp,
      piecesInCamp: known.pieces_in_camp,
      points: known.points,
      inCheck: known.in_check,
    });
    expect(totalPoints(position, position.side)).toBe(known.total_points);
    expect(declares27(count, position.side)).toBe(known.declare27);
    expect(declares24(count)).toBe(known.declare24);
  });

  // declared exactly where nothing is missing any more, by each rule and for either side
  it.each(readVectors<DeclarationCase>('shogi_declarations.jsonl'))(
    'what is missing at $sfen',
    ({ sfen }) => {
      const position = shogi.start(sfen);
      const { side } = position;
      const stand = impasseOf(position, side);
      const ready = stand.kingRanks === 0 && stand.piecesMissing === 0 && !stand.inCheck;
      const has = (at: number): boolean => ready && stand.needs[at]!.missing === 0;
      const count = countDeclaration(position);
      expect(has(1) ? 'win' : has(0) ? 'draw' : 'none').toBe(declares24(count));
      expect(has(2)).toBe(declares27(count, side));
    },
  );
});

describe('how far an impasse is', () => {
  // Black: rook, gold and 2 pawns outside, silver and king inside, bishop in hand; White: a bare king
  const position = shogi.start('9/S8/1K7/9/9/3P1P3/4G4/8R/4k4 b B 1');

  it('counts ranks, pieces and points, and what only captures bring', () => {
    expect(impasseOf(position, 0)).toEqual({
      kingInCamp: true,
      kingRanks: 0,
      piecesInCamp: 1,
      piecesMissing: 9,
      points: 6,
      inCheck: false,
      total: 14,
      needs: [
        { rule: 24, result: 'draw', points: 24, missing: 18, toCapture: 10 },
        { rule: 24, result: 'win', points: 31, missing: 25, toCapture: 17 },
        { rule: 27, result: 'win', points: 28, missing: 22, toCapture: 14 },
      ],
    });
  });

  it('asks 27 points of White, who is credited with the handicap that was given', () => {
    const { kingRanks, total, needs } = impasseOf(position, 1, 6);
    expect({ kingRanks, total }).toEqual({ kingRanks: 0, total: 6 });
    expect(needs[2]).toEqual({ rule: 27, result: 'win', points: 27, missing: 21, toCapture: 21 });
    expect(impasseOf(shogi.start(), 1).kingRanks).toBe(6);
  });
});

interface GameCase {
  game: 'chess' | 'shogi';
  fen?: string;
  sfen?: string;
  moves: string[];
  final_fen?: string;
  final_sfen?: string;
  counts: number[];
  threefold_ply?: number | null;
  fivefold_ply?: number | null;
  fifty_ply?: number | null;
  seventyfive_ply?: number | null;
  first_ply?: number;
  fourfold_ply?: number;
  result?: string;
}

function replay<P>(ruleset: Ruleset<P>, start: string, codes: string[]) {
  const positions = [ruleset.start(start)];
  for (const code of codes)
    positions.push(ruleset.play(positions.at(-1)!, ruleset.parseCode(code)!));
  const statuses = positions.map((position, ply) =>
    ruleset.status(position, positions.slice(0, ply)),
  );
  const seen = new Map<bigint, number>();
  const counts = positions.map((position) => {
    const key = ruleset.key(position);
    const count = (seen.get(key) ?? 0) + 1;
    seen.set(key, count);
    return count;
  });
  return { positions, statuses, counts };
}

const claims = (status: Status, name: string): boolean =>
  status.state === 'ongoing' && status.claims.some(({ claim }) => claim === name);

const firstPly = (statuses: Status[], test: (status: Status) => boolean): number | null => {
  const ply = statuses.findIndex(test);
  return ply < 0 ? null : ply;
};

describe('repetitions and move counts with known answers', () => {
  const games = readVectors<GameCase>('games.jsonl');
  it.each(games.filter((known) => known.game === 'chess'))('chess $fen', (known) => {
    const { positions, statuses, counts } = replay(chess, known.fen!, known.moves);
    expect(counts).toEqual(known.counts);
    expect(chess.write(positions.at(-1)!)).toBe(known.final_fen);
    expect(
      firstPly(
        statuses,
        (status) =>
          claims(status, 'threefold repetition') ||
          (status.state === 'over' && status.end === 'repetition'),
      ),
    ).toBe(known.threefold_ply);
    expect(
      firstPly(statuses, (status) => status.state === 'over' && status.end === 'repetition'),
    ).toBe(known.fivefold_ply);
    const beyondCount = (limit: number) =>
      firstPly(
        positions.map((_, ply) => statuses[ply]!),
        (status) => positions[statuses.indexOf(status)]!.halfmoves >= limit,
      );
    expect(beyondCount(100)).toBe(known.fifty_ply);
    expect(beyondCount(150)).toBe(known.seventyfive_ply);
  });

  it.each(games.filter((known) => known.game === 'shogi'))('shogi $sfen', (known) => {
    const { positions, statuses, counts } = replay(shogi, known.sfen!, known.moves);
    expect(counts).toEqual(known.counts);
    expect(shogi.write(positions.at(-1)!)).toBe(known.final_sfen);
    const ply = firstPly(statuses, (status) => status.state === 'over');
    expect(ply).toBe(known.fourfold_ply);
    const expected = {
      draw: { state: 'over', end: 'repetition', result: '1/2-1/2' },
      black_loses: { state: 'over', end: 'perpetual check', result: '0-1' },
      white_loses: { state: 'over', end: 'perpetual check', result: '1-0' },
    }[known.result!];
    expect(statuses[ply!]).toEqual(expected);
  });
});
