import type { Lesson } from '@/server/lessons';
import { PositionLink } from '../board/position-link';
import { gameHref } from '../desk-href';

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
  return (
    <li>
      <PositionLink href={gameHref(gameId, node)} kind={kind} position={position} move={move}>
        {words}
      </PositionLink>
    </li>
  );
}
