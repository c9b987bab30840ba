'use client';

import { useMemo } from 'react';
import { useFormatter, useTranslations } from 'next-intl';
import { useQueries } from '@tanstack/react-query';
import { isCertain, type EndingAnswer } from '@/contract/endings';
import { chess } from '@/core/chess/ruleset';
import { isBetter } from '@/core/endings/exact';
import { missedPatterns, twinOf, type Pattern, type Twin } from '@/core/endings/patterns';
import type { Move } from '@/core/game/move';
import type { Side } from '@/core/game/ruleset';
import { EXACT_DEPTH } from '@/core/review/evaluation';
import { isFlag } from '@/core/review/verdict';
import { moveText, numberText } from '../move-text';
import { useShogiNotation } from '../preferences';
import { useSideName } from '../side-name';
import { useCardPlace } from './card-place';
import { useReview } from './desk-review';
import { useDesk } from './desk-store';
import { endingQuery } from './ending-query';
import { MoveLink } from './move-link';
import { PushTiming } from './push-timing';

/** What a move lets go of, by how much is certain about its position. */
interface LetGo {
  result: 'win' | 'draw';
  /** Moves that keep it, in UCI. */
  keeping: readonly string[];
  patterns: readonly Pattern[];
  /** How it looks like the only one of them, where no pattern tells them apart. */
  twin: Twin | null;
}

/** What was missed, by all names that it has. */
const namesOf = ({ patterns, twin }: LetGo): string[] => [...patterns, ...(twin ? [twin] : [])];

/** Of a move that lets a result go: what those that keep it have in common; null where it keeps it. @param text FEN */
function letGoBy({ worth, moves }: EndingAnswer, text: string, move: Move): LetGo | null {
  const played = moves.find((one) => one.move === chess.code(move));
  if (!played || !worth || !isCertain(worth) || !isBetter(worth.least, played.most)) return null;
  const keeping = moves
    .filter((one) => isCertain(one) && one.least === worth.least)
    .map((one) => one.move);
  const parsed = keeping.map((code) => chess.parseCode(code)!);
  const position = chess.start(text);
  const patterns = missedPatterns(position, move, parsed);
  return {
    result: worth.least === 'win' ? 'win' : 'draw',
    keeping,
    patterns,
    twin: patterns.length > 0 ? null : twinOf(position, move, parsed),
  };
}

/** Of the move that was played here, where it let the result go: what those that keep it have in common, and whether the other side missed the same. */
export function MissedPattern({ answer }: { answer: EndingAnswer }) {
  const t = useTranslations('ending.missed');
  const format = useFormatter();
  const notation = useShogiNotation();
  const { node, way, position } = useCardPlace();
  const view = useDesk((state) => state.view);
  const next = way.length === 0 && view.isMainLine(node) ? view.line[view.plyOf(node)] : undefined;
  const letGo = next && letGoBy(answer, view.ruleset.write(position), next.move);
  if (!next || !letGo || namesOf(letGo).length === 0) return null;
  const { result, keeping, patterns, twin } = letGo;
  const textOf = (move: Move): string => moveText(view.ruleset, position, move, null, notation);
  const move = `${numberText(view.ruleset, position)} ${textOf(next.move)}`;
  return (
    <p className="m-0">
      {twin
        ? t(`twins.${twin}`, {
            move,
            result: t(result),
            keeps: textOf(chess.parseCode(keeping[0]!)!),
          })
        : t('sentence', {
            move,
            result: t(result),
            count: keeping.length,
            patterns: format.list(patterns.map((pattern) => t(`patterns.${pattern}`))),
          })}{' '}
      <PushTiming answer={answer} move={next.move} keeping={keeping} result={result} />{' '}
      <MissedToo names={namesOf(letGo)} by={view.ruleset.side(position)} />
    </p>
  );
}

/** Errors of the other side that are looked at. */
const MOST_ERRORS = 12;

/** Whether the other side let a result go in the same game by missing the same, as far as a sweep has found out. */
function MissedToo({ names, by }: { names: readonly string[]; by: Side }) {
  const t = useTranslations('ending.missed');
  const view = useDesk((state) => state.view);
  const sideName = useSideName(view.ruleset);
  const { review } = useReview();
  const errors = useMemo(
    () =>
      (review?.moves ?? [])
        .flatMap((found) =>
          found && found.side !== by && found.depth === EXACT_DEPTH && isFlag(found.verdict)
            ? [found.ply]
            : [],
        )
        .filter((ply) => ply <= view.line.length)
        .slice(0, MOST_ERRORS)
        .map((ply) => {
          const { parent, move } = view.line[ply - 1]!;
          return { ply, move, position: view.ruleset.write(view.positionOf(parent!)) };
        }),
    [review, view, by],
  );
  const answers = useQueries({
    queries: errors.map(({ position }) => endingQuery(position)),
  });
  const alike = errors.flatMap(({ ply, move, position }, index) => {
    const data = answers[index]?.data;
    const letGo = data && letGoBy(data, position, move);
    return letGo && namesOf(letGo).some((name) => names.includes(name)) ? [ply] : [];
  });
  if (alike.length === 0) return null;
  return (
    <>
      {t('otherToo', { side: sideName(by === 0 ? 1 : 0) })}{' '}
      {alike.map((ply) => (
        <MoveLink key={ply} ply={ply} />
      ))}
    </>
  );
}
