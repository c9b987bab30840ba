'use client';

import Link from 'next/link';
import { useTranslations } from 'next-intl';
import { rulesetOf } from '@/core/rulesets';
import type { Lesson } from '@/server/lessons';
import { gameHref } from '../desk-href';
import { GameBoard } from '../board/game-board';

/** Lessons under the games that taught them; each opens its position. */
export function LessonList({ lessons }: { lessons: readonly Lesson[] }) {
  const byGame = new Map<number, Lesson[]>();
  for (const lesson of lessons)
    byGame.set(lesson.gameId, [...(byGame.get(lesson.gameId) ?? []), lesson]);
  return [...byGame.values()].map((ofGame) => {
    const { gameId, players, date, event } = ofGame[0]!;
    return (
      <div key={gameId} className="quiet-box">
        <h2>
          {players[0] ?? '?'} – {players[1] ?? '?'}{' '}
          <span className="soft fs-6 fw-normal">
            {[date, event].filter((part) => part !== null).join(' · ')}
          </span>
        </h2>
        <ul className="lesson-list">
          {ofGame.map((lesson) => (
            <LessonItem key={lesson.node} lesson={lesson} />
          ))}
        </ul>
      </div>
    );
  });
}

function LessonItem({ lesson: { gameId, node, kind, words, position, move } }: { lesson: Lesson }) {
  const t = useTranslations('lessons');
  const ruleset = rulesetOf(kind);
  return (
    <li>
      <Link href={gameHref(gameId, node)}>
        <span className="lesson-board">
          <GameBoard
            kind={kind}
            position={ruleset.start(position)}
            flipped={false}
            lastMove={move === null ? null : ruleset.parseCode(move)}
            label={t('position', { position })}
          />
        </span>
        <span className="words">{words}</span>
      </Link>
    </li>
  );
}
