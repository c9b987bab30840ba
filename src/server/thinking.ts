import type * as z from 'zod';
import type { answerThought } from '@/contract/review';
import { gameInfo } from '@/core/game/info';
import type { GameKind, Side } from '@/core/game/ruleset';
import { mainLine, positionsAlong } from '@/core/game/tree';
import { stopsOf } from '@/core/review/stops';
import { rulesetOf } from '@/core/rulesets';
import { findingsOf, presentFindings } from './findings';
import { NO_FINDINGS, rankAmong } from '@/core/review/review';
import { findGame } from './games';
import { ownSideOf } from './own-side';
import type { Owner, OwnerRef } from './owner';

/** What a player may know of a stop before having entered a move: the way there, and nothing that comes after it. */
export interface ThinkingStop {
  gameId: number;
  kind: GameKind;
  players: readonly [string | null, string | null];
  ownSide: Side | null;
  /** The sweep that tells where to stop; null where the game has not been gone over. */
  sweep: number | null;
  /** Stops in all. */
  count: number;
  start: string;
  /** The moves up to the stop, in UCI or USI. */
  moves: readonly string[];
}

/** What is told once a move has been entered. */
type ThinkingAnswer = z.infer<typeof answerThought.answer>;

/** Whose game it is, and where it stops; null without such a game. */
async function stopsIn(owner: OwnerRef, gameId: number, side: Side | null) {
  const game = await findGame(owner, gameId);
  if (!game) return null;
  const { tree } = game.record;
  const ruleset = rulesetOf(tree.kind);
  const line = mainLine(tree);
  const positions = positionsAlong(ruleset, tree.start, line);
  const found = await findingsOf(owner, game);
  const findings = found ? presentFindings(game, found) : NO_FINDINGS;
  const evaluations = found?.evaluations ?? [];
  const stops = stopsOf(ruleset, positions, findings, side);
  return {
    game,
    ruleset,
    line,
    positions,
    sweep: found?.sweep.id ?? null,
    evaluations,
    findings,
    stops,
  };
}

/** A stop of a game, from 1; null without such a game. Where there is no such stop the moves are empty. */
export async function thinkingStop(
  owner: Owner,
  gameId: number,
  side: Side | null,
  stop: number,
): Promise<ThinkingStop | null> {
  const found = await stopsIn(owner, gameId, side);
  if (!found) return null;
  const { game, ruleset, line, stops } = found;
  const { players } = gameInfo(game.record);
  return {
    gameId,
    kind: ruleset.kind,
    players: [players[0].name, players[1].name],
    ownSide: ownSideOf(owner, game.sides),
    sweep: found.sweep,
    count: stops.length,
    start: game.record.tree.start,
    moves: line.slice(0, stops[stop - 1] ?? 0).map(({ move }) => ruleset.code(move)),
  };
}

/** What is to be said of a move entered at a stop; null where there is no such stop, or the move is not legal there. */
export async function thinkingAnswer(
  owner: OwnerRef,
  gameId: number,
  side: Side | null,
  stop: number,
  code: string,
): Promise<ThinkingAnswer | null> {
  const found = await stopsIn(owner, gameId, side);
  const ply = found?.stops[stop - 1];
  if (!found || ply === undefined) return null;
  const { ruleset, line, positions, evaluations, findings } = found;
  const move = ruleset.parseCode(code);
  if (move === null || !ruleset.isLegal(positions[ply]!, move)) return null;
  const { lines = [], compared = lines } = evaluations[ply] ?? {};
  const rank = rankAmong(compared, code, lines[0]?.moves[0] === code);
  return {
    played: ruleset.code(line[ply]!.move),
    best: lines[0]!.moves[0]!,
    rank,
    linesKnown: compared.length,
    isTurningPoint: findings.moves[ply]!.isTurningPoint,
    node: line[ply]!.parent!,
  };
}
