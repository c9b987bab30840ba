import { chessOpening } from '../openings/chess-openings';
import { nearbyMoves } from '../game/nearby';
import { CHESS_START, readFen, writeFen } from './fen';
import { readSan, writeSan } from './san';
import { readUci, writeUci } from './uci';
import { winFor } from '../game/result';
import { otherSide, type Claim, type Ruleset, type SearchRoot, type Status } from '../game/ruleset';
import { squareName } from './board-geometry';
import { chessDiagram } from './diagram';
import { chessFeatures } from './features';
import { LETTERS, QUEEN, sideOf, typeOf } from './pieces';
import { chessPhase } from './phase';
import type { ChessPosition } from './position';
import { chessSetup } from './setup';

/** How often the position has been on the board, this time included. */
function occurrences(position: ChessPosition, history: readonly ChessPosition[]): number {
  const key = position.key();
  const first = Math.max(0, history.length - position.halfmoves);
  let count = 1;
  for (let i = history.length - 2; i >= first; i -= 2) if (history[i]!.key() === key) count++;
  return count;
}

function status(position: ChessPosition, history: readonly ChessPosition[]): Status {
  if (!position.hasLegalMove())
    return position.inCheck()
      ? { state: 'over', end: 'checkmate', result: winFor(otherSide(position.side)) }
      : { state: 'over', end: 'stalemate', result: '1/2-1/2' };
  if (position.isInsufficient()) return { state: 'over', end: 'insufficient', result: '1/2-1/2' };
  const count = occurrences(position, history);
  if (count >= 5) return { state: 'over', end: 'repetition', result: '1/2-1/2' };
  if (position.halfmoves >= 150)
    return { state: 'over', end: 'seventy-five moves', result: '1/2-1/2' };
  const claims: Claim[] = [];
  if (count >= 3) claims.push({ claim: 'threefold repetition' });
  if (position.halfmoves >= 100) claims.push({ claim: 'fifty moves' });
  return { state: 'ongoing', claims };
}

/** From this count on the fifty-move rule can come into the reach of a search. */
const COUNT_MATTERS = 60;

function searchRoot(position: ChessPosition, history: readonly ChessPosition[]): SearchRoot {
  const canonical = position.clone();
  canonical.halfmoves = position.halfmoves >= COUNT_MATTERS ? position.halfmoves : 0;
  canonical.fullmoves = 1;
  const line = [...history.slice(Math.max(0, history.length - position.halfmoves)), position];
  const seen = new Set<bigint>();
  const twice = new Map<bigint, ChessPosition>();
  for (const earlier of line.length > 4 ? line : []) {
    const key = earlier.key();
    if (seen.has(key)) twice.set(key, earlier);
    seen.add(key);
  }
  const repeated = [...twice.values()].map((earlier) => {
    const bare = earlier.clone();
    bare.halfmoves = 0;
    bare.fullmoves = 1;
    return { position: writeFen(bare, { enPassant: 'legal' }), checker: null };
  });
  return {
    position: writeFen(canonical, { enPassant: 'legal' }),
    moveCount: canonical.halfmoves,
    repeated: repeated.sort((a, b) => (a.position < b.position ? -1 : 1)),
  };
}

export const chess: Ruleset<ChessPosition> = {
  kind: 'chess',
  positionFormat: 'FEN',
  exampleLine: ['e2e4', 'd7d5', 'e4d5'],
  sides: ['white', 'black'],
  numbering: 'move',
  startText: CHESS_START,
  handicaps: [],
  handicapOf: () => null,
  start: (setup = CHESS_START) => readFen(setup),
  write: (position) => writeFen(position),
  moves: (position) => position.legalMoves(),
  choices: (position) => position.legalMoves(),
  repetitions: 3,
  quietPlies: (position) => position.halfmoves,
  isLegal: (position, move) => position.isLegal(move),
  play(position, move) {
    const next = position.clone();
    next.make(move);
    return next;
  },
  key: (position) => position.key(),
  keysAlong(from, moves) {
    const position = from.clone();
    return [
      position.key(),
      ...moves.map((move) => {
        position.make(move);
        return position.key();
      }),
    ];
  },
  side: (position) => position.side,
  inCheck: (position) => position.inCheck(),
  moveNumber: (position) => position.fullmoves,
  status,
  searchRoot,
  code: writeUci,
  parseCode: readUci,
  squareNames: Array.from({ length: 64 }, (_, square) => squareName(square)),
  phase: chessPhase,
  opening: chessOpening,
  features: chessFeatures,
  diagram: chessDiagram,
  setup: chessSetup,
  text: writeSan,
  writings: ['western'],
  textIn: (_, position, move) => writeSan(position, move),
  pieceIn: (_, letter) => letter,
  readText(position, text) {
    const code = readUci(text);
    if (code !== null && chess.isLegal(position, code)) return { move: code };
    const reading = readSan(position, text);
    return 'move' in reading ? reading : { ...reading, nearby: nearbyMoves(chess, position, text) };
  },
  materialBalance(position) {
    const counts = new Array<number>(7).fill(0);
    for (const piece of position.board)
      if (piece !== 0) counts[typeOf(piece)]! += sideOf(piece) === 0 ? 1 : -1;
    const balance = [];
    for (let type = QUEEN; type >= 1; type--)
      if (counts[type] !== 0) balance.push({ piece: LETTERS[type]!, count: counts[type]! });
    return balance;
  },
};
