'use client';

import { useTranslations } from 'next-intl';
import { useQuery } from '@tanstack/react-query';
import { isCertain, type EndingAnswer } from '@/contract/endings';
import { PAWN, typeOf } from '@/core/chess/pieces';
import type { ChessPosition } from '@/core/chess/position';
import { chess } from '@/core/chess/ruleset';
import type { Result } from '@/core/endings/exact';
import { fromOf, type Move } from '@/core/game/move';
import type { Position } from '@/core/game/ruleset';
import { lineText, readLine } from '../move-text';
import { useShogiNotation } from '../preferences';
import { useCardPlace } from './card-place';
import { useDesk } from './desk-store';
import { endingQuery } from './ending-query';

/** Whether a move surely keeps a result, in a position that is worth it. */
const keeps = (answer: EndingAnswer | undefined, code: string, result: Result): boolean => {
  const move = answer?.moves.find((one) => one.move === code);
  return (
    answer?.worth?.least === result &&
    move !== undefined &&
    isCertain(move) &&
    move.least === result
  );
};

/** Of a pawn's move that lets a result go: whether the same move keeps it a move later, or would have kept it a move before. */
export function PushTiming({
  answer,
  move,
  keeping,
  result,
}: {
  answer: EndingAnswer;
  move: Move;
  /** Moves that keep it, in UCI. */
  keeping: readonly string[];
  result: Result;
}) {
  const t = useTranslations('ending.missed');
  const { node, position: onBoard } = useCardPlace();
  const view = useDesk((state) => state.view);
  const notation = useShogiNotation();
  /** The same position in the rules of chess. */
  const inChess = (one: Position): ChessPosition => chess.start(view.ruleset.write(one));
  const position = inChess(onBoard);
  const code = chess.code(move);
  const isPush = typeOf(position.board[fromOf(move)]!) === PAWN;
  // a move later: what keeps it best, and the best reply
  const first = isPush ? answer.moves.find((one) => keeping.includes(one.move)) : undefined;
  const behind = first && chess.play(position, chess.parseCode(first.move)!);
  const reply = useQuery({
    ...endingQuery(behind ? chess.write(behind) : ''),
    enabled: behind !== undefined,
  }).data?.moves[0];
  const later = behind && reply && chess.play(behind, chess.parseCode(reply.move)!);
  const isThereLater = later !== undefined && chess.moves(later).includes(move);
  const answerLater = useQuery({
    ...endingQuery(later ? chess.write(later) : ''),
    enabled: isThereLater,
  }).data;
  // a move before, in the game
  const parent = isPush ? view.node(node).parent : null;
  const before = parent === null ? null : view.node(parent).parent;
  const earlier = before === null ? null : inChess(view.positionOf(before));
  const isThereEarlier = earlier !== null && chess.moves(earlier).includes(move);
  const answerEarlier = useQuery({
    ...endingQuery(earlier ? chess.write(earlier) : ''),
    enabled: isThereEarlier,
  }).data;
  if (isThereLater && keeps(answerLater, code, result)) {
    const line = readLine(view.ruleset, onBoard, [first!.move, reply!.move, code], null, notation);
    return t('pushLater', { line: lineText(line) });
  }
  return isThereEarlier && keeps(answerEarlier, code, result) && t('pushEarlier');
}
