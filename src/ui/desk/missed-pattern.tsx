'use client';

import { useFormatter, useTranslations } from 'next-intl';
import { isCertain, type EndingAnswer, type EndingWorth } from '@/contract/endings';
import { chess } from '@/core/chess/ruleset';
import { isBetter } from '@/core/endings/exact';
import { missedPatterns } from '@/core/endings/patterns';
import { moveText, numberText } from '../move-text';
import { useShogiNotation } from '../preferences';
import { useCardPlace } from './card-place';
import { useDesk } from './desk-store';

/** Of the move that was played here, where it let the result go: what those that keep it have in common. */
export function MissedPattern({
  worth,
  moves,
}: {
  worth: EndingWorth;
  moves: EndingAnswer['moves'];
}) {
  const t = useTranslations('ending.missed');
  const format = useFormatter();
  const notation = useShogiNotation();
  const { node, way, position } = useCardPlace();
  const view = useDesk((state) => state.view);
  const next = way.length === 0 && view.isMainLine(node) ? view.line[view.plyOf(node)] : undefined;
  const played = next && moves.find(({ move }) => move === chess.code(next.move));
  if (!played || !isCertain(worth) || !isBetter(worth.least, played.most)) return null;
  const keeping = moves
    .filter((move) => isCertain(move) && move.least === worth.least)
    .map(({ move }) => chess.parseCode(move)!);
  const patterns = missedPatterns(chess.start(view.ruleset.write(position)), next.move, keeping);
  if (patterns.length === 0) return null;
  const text = moveText(view.ruleset, position, next.move, null, notation);
  return (
    <p className="m-0">
      {t('sentence', {
        move: `${numberText(view.ruleset, position)} ${text}`,
        result: t(worth.least === 'win' ? 'win' : 'draw'),
        count: keeping.length,
        patterns: format.list(patterns.map((pattern) => t(`patterns.${pattern}`))),
      })}
    </p>
  );
}
