'use client';

import Link from 'next/link';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import type { GameKind } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { GameBoard } from '../board/game-board';
import { useBoardLabel } from '../board/use-board-label';
import { numberText } from '../move-text';
import { useSideName } from '../side-name';

/** A position to be thought about, on paper or on a screen: what follows is behind a link. */
export function QuestionPage({
  gameId,
  node,
  kind,
  position: text,
  lastMove,
  source,
}: {
  gameId: number;
  node: number;
  kind: GameKind;
  /** FEN or SFEN. */
  position: string;
  /** UCI or USI. */
  lastMove: string | null;
  source: string;
}) {
  const t = useTranslations('question');
  const ruleset = rulesetOf(kind);
  const position = ruleset.start(text);
  const side = ruleset.side(position);
  const sideName = useSideName(ruleset);
  const boardLabel = useBoardLabel(ruleset);
  return (
    <article className="printed question">
      <h1>{t('toMove', { side: sideName(side) })}</h1>
      <div className="question-board">
        <GameBoard
          kind={kind}
          position={position}
          flipped={side === 1}
          lastMove={lastMove === null ? null : ruleset.parseCode(lastMove)}
          label={boardLabel(position)}
        />
      </div>
      <p className="answer-line">
        {numberText(ruleset, position)} <span className="blank" />
      </p>
      <p className="soft small">
        {source}
        <br />
        <span className="text-break">{text}</span>
      </p>
      <div className="d-flex gap-3 align-items-center d-print-none">
        <Link href={`/games/${gameId}?node=${node}`} prefetch={false}>
          {t('answer')}
        </Link>
        <Button variant="plain" onClick={() => window.print()}>
          {t('print')}
        </Button>
      </div>
    </article>
  );
}
