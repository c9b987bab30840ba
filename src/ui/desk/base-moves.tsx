'use client';

import { useState } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { ListUl, PlusLg } from 'react-bootstrap-icons';
import type { Base, BaseAnswer, BaseMove, Onward } from '@/contract/bases';
import { frequencyDiffers, scoreDiffers } from '@/core/base/compare';
import { gamesIn, shareInterval, shareOf, type Score, FEW_GAMES } from '@/core/game/score-share';
import { scoreText } from '../format';
import { readLine } from '../move-text';
import { useShogiNotation } from '../preferences';
import { releaseAfterClick, rove } from '../roving';
import type { BoardPlace } from './board-place';
import { useDesk, useMay } from './desk-store';
import type { Preview } from './line-moves';
import { useMoveHere } from './use-move-here';

/** What a base says of what is on the board; null while it is being asked, or where it can't be. */
export interface Asked {
  base: Base;
  /** What it is called here. */
  name: string;
  /** Whether it is the first base once more, for others of its games. */
  isCompared: boolean;
  isFiltered: boolean;
  answer: BaseAnswer | null;
}

type Order = 'games' | 'score' | 'expected' | 'rating' | 'years';

/** By what moves are ordered, the largest first; what is not known comes last. */
const ORDERS: Readonly<Record<Order, (move: BaseMove) => number>> = {
  games: ({ games }) => games,
  score: ({ score }) => shareOf(score) ?? -1,
  expected: ({ expected }) => (expected ? expected.got - expected.share : -Infinity),
  rating: ({ rating }) => rating ?? -1,
  years: ({ years }) => years?.[1] ?? -1,
};
const NAMES = Object.keys(ORDERS) as Order[];

/** The moves that were played at a position, with what other bases say of them. */
export function BaseMoves({
  asked,
  onward,
  place,
  chosen,
  onChoose,
  onPreview,
}: {
  asked: readonly Asked[];
  onward: Onward;
  place: BoardPlace;
  /** The move whose games are listed. */
  chosen: string | null;
  onChoose(move: string | null): void;
  onPreview(preview: Preview | null): void;
}) {
  const t = useTranslations('base');
  const [order, setOrder] = useState<Order>('games');
  const [first, ...others] = asked;
  const answer = first!.answer!;
  const moves = answer.moves.toSorted((a, b) => ORDERS[order](b) - ORDERS[order](a));
  return (
    <div className="base-scroll">
      <table className="base-table">
        <thead>
          <tr>
            <th>{t('columns.move')}</th>
            {NAMES.map((name) => (
              <th
                key={name}
                className={WIDE.has(name) ? 'when-spread' : undefined}
                aria-sort={order === name ? 'descending' : undefined}
              >
                <button
                  type="button"
                  className="order"
                  title={t(`about.${name}`)}
                  onClick={() => setOrder(name)}
                >
                  {t(`columns.${name}`)}
                  {order === name && <span aria-hidden="true">{' ↓'}</span>}
                </button>
              </th>
            ))}
            <th className="when-spread" title={t('about.reached')}>
              {t('columns.reached')}
            </th>
            <th className="when-spread" title={t('about.evaluation')}>
              {t('columns.evaluation')}
            </th>
            {others.map(({ base, name, isCompared }) => (
              <th
                key={`${base.id} ${isCompared}`}
                className="other-base"
                title={t('otherHead', { base: name })}
              >
                {isCompared ? t('comparedShort') : name}
              </th>
            ))}
            <th>
              <span className="visually-hidden">{t('columns.tools')}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {moves.map((one) => (
            <MoveRow
              key={one.move ?? 'end'}
              one={one}
              answer={answer}
              others={others}
              onward={onward.find(({ move }) => move === one.move) ?? null}
              place={place}
              isChosen={one.move !== null && one.move === chosen}
              onChoose={onChoose}
              onPreview={onPreview}
            />
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Those that there is room for where the card takes the sheet's place. */
const WIDE = new Set<Order>(['expected', 'rating']);

function MoveRow({
  one,
  answer,
  others,
  onward,
  place,
  isChosen,
  onChoose,
  onPreview,
}: {
  one: BaseMove;
  answer: BaseAnswer;
  others: readonly Asked[];
  onward: Onward[number] | null;
  place: BoardPlace;
  isChosen: boolean;
  onChoose(move: string | null): void;
  onPreview(preview: Preview | null): void;
}) {
  const { move, games, score, rating, expected, years, trend } = one;
  const t = useTranslations('base');
  const { play, insert } = useMoveHere(place);
  const mayEdit = useMay('edit');
  const ruleset = useDesk(({ view }) => view.ruleset);
  const notation = useShogiNotation();
  const next = useNextMove(place);
  const [read] = move === null ? [] : readLine(ruleset, place.position, [move], null, notation);
  const share = Math.round((100 * games) / answer.games);
  const side = ruleset.side(place.position);
  const show = (): void =>
    read && onPreview({ position: read.position, move: read.move, text: read.text });
  const hide = (): void => onPreview(null);
  return (
    <tr
      className={[
        move !== null && move === next ? 'played' : '',
        games < FEW_GAMES ? 'few' : '',
        isChosen ? 'chosen' : '',
      ].join(' ')}
      onKeyDown={rove}
    >
      <th scope="row">
        {read ? (
          <button
            type="button"
            className="inline-move"
            title={t('play')}
            onMouseEnter={show}
            onMouseLeave={hide}
            onFocus={show}
            onBlur={hide}
            onClick={(event) => {
              releaseAfterClick(event);
              hide();
              play(move!);
            }}
          >
            {read.text}
          </button>
        ) : (
          <span className="soft">{t('ended')}</span>
        )}
      </th>
      <td className="count">
        <span className="share" style={{ width: `${share}%` }} aria-hidden="true" />
        {games} <span className="soft">{share} %</span>
      </td>
      <td>
        <ScorePicture score={score} usual={shareOf(answer.usual)} />
      </td>
      <td className="when-spread">
        {expected && (
          <span title={t('expectedTitle', { games: expected.games })}>
            {signed(expected.got - expected.share)}
          </span>
        )}
      </td>
      <td className="when-spread">
        {rating !== null && (
          <span
            title={
              expected
                ? t('performance', {
                    rating: expected.performance.toFixed(0),
                    games: expected.games,
                  })
                : undefined
            }
          >
            {rating.toFixed(0)}
            {expected && <span className="soft">{` → ${expected.performance.toFixed(0)}`}</span>}
          </span>
        )}
      </td>
      <td className="text-nowrap">
        {years && (years[0] === years[1] ? years[0] : `${years[0]}–${String(years[1]).slice(-2)}`)}
        {trend && (
          <span title={t(`trend.${trend}`)} className={trend === 'coming' ? undefined : 'soft'}>
            {' '}
            {trend === 'coming' ? '↗' : '↘'}
            <span className="visually-hidden">{t(`trend.${trend}`)}</span>
          </span>
        )}
      </td>
      <td className="when-spread">
        {onward && onward.reached > games && (
          <span title={t('reachedTitle', { games: onward.reached })}>
            {`+${onward.reached - games}`}
          </span>
        )}
      </td>
      <td className="when-spread">
        {onward?.evaluation && (
          <span title={t('depth', { depth: onward.evaluation.depth })}>
            {scoreText(onward.evaluation.score, side, ruleset)}
          </span>
        )}
      </td>
      {others.map(({ base, isCompared, answer: other }) => (
        <OtherBase key={`${base.id} ${isCompared}`} answer={other} first={answer} one={one} />
      ))}
      <td className="text-nowrap">
        {move !== null && (
          <>
            <Button
              variant="plain"
              size="sm"
              className="insert"
              tabIndex={-1}
              aria-pressed={isChosen}
              aria-label={t('itsGames', { move: read?.text ?? move })}
              title={t('itsGames', { move: read?.text ?? move })}
              onClick={(event) => {
                releaseAfterClick(event);
                onChoose(isChosen ? null : move);
              }}
            >
              <ListUl aria-hidden="true" />
            </Button>
            {mayEdit && (
              <Button
                variant="plain"
                size="sm"
                className="insert"
                tabIndex={-1}
                aria-label={t('insert', { move: read?.text ?? move })}
                title={t('insert', { move: read?.text ?? move })}
                onClick={(event) => {
                  releaseAfterClick(event);
                  insert([move]);
                }}
              >
                <PlusLg aria-hidden="true" />
              </Button>
            )}
          </>
        )}
      </td>
    </tr>
  );
}

/** The move that the game goes on with, in UCI or USI; null at its end and beside it. */
function useNextMove(place: BoardPlace): string | null {
  return useDesk(({ view }) => {
    const [next] = place.way.length === 0 ? view.node(place.node).children : [];
    return next === undefined ? null : view.ruleset.code(view.node(next).move);
  });
}

/** What another base says of the same move, and where it differs from the first by more than chance. */
function OtherBase({
  answer,
  first,
  one,
}: {
  answer: BaseAnswer | null;
  first: BaseAnswer;
  one: BaseMove;
}) {
  const t = useTranslations('base');
  if (!answer) return <td className="soft">…</td>;
  const found = answer.moves.find(({ move }) => move === one.move);
  const often = frequencyDiffers(
    { count: found?.games ?? 0, of: answer.games },
    { count: one.games, of: first.games },
  );
  const scores = found ? scoreDiffers(found.score, one.score) : null;
  const share = found ? shareOf(found.score) : null;
  const said = [
    t('otherTitle', {
      games: found?.games ?? 0,
      of: answer.games,
      score: share?.toFixed(0) ?? '–',
    }),
    often && t(`differs.often.${often}`),
    scores && t(`differs.scores.${scores}`),
  ];
  return (
    <td
      className={`other-base ${(found?.games ?? 0) < FEW_GAMES ? 'few' : ''}`}
      title={said.filter(Boolean).join('; ')}
    >
      <Compared differs={often}>
        {found ? `${Math.round((100 * found.games) / answer.games)} %` : '–'}
      </Compared>{' '}
      {share !== null && (
        <Compared differs={scores}>{t('otherScore', { score: share.toFixed(0) })}</Compared>
      )}
    </td>
  );
}

/** A figure beside that of the first base: in ink with an arrow where they differ by more than chance. */
function Compared({ differs, children }: { differs: 'more' | 'less' | null; children: string }) {
  const t = useTranslations('base');
  if (!differs) return <span className="soft">{children}</span>;
  return (
    <strong>
      {children}
      <span aria-hidden="true">{differs === 'more' ? '▲' : '▼'}</span>
      <span className="visually-hidden"> {t(`differs.${differs}`)}</span>
    </strong>
  );
}

const signed = (points: number): string =>
  `${points < 0 ? '−' : '+'}${Math.abs(points).toFixed(0)}`;

const WIDTH = 72;
const HEIGHT = 12;

/** A score as a point on a line of 100, with what may be behind it, and where the usual one lies. */
function ScorePicture({ score, usual }: { score: Score; usual: number | null }) {
  const t = useTranslations('base');
  const share = shareOf(score);
  const interval = shareInterval(score);
  if (share === null || !interval) return <span className="soft">–</span>;
  const at = (points: number): number => 2 + ((WIDTH - 4) * points) / 100;
  const title = t('scoreTitle', {
    share: share.toFixed(0),
    from: interval[0].toFixed(0),
    to: interval[1].toFixed(0),
    games: gamesIn(score),
    won: score.won,
    drawn: score.drawn,
    lost: score.lost,
  });
  return (
    <span className="score-picture" title={title}>
      <svg width={WIDTH} height={HEIGHT} aria-hidden="true">
        <line className="scale" x1={2} x2={WIDTH - 2} y1={HEIGHT - 1} y2={HEIGHT - 1} />
        {usual !== null && (
          <line className="usual" x1={at(usual)} x2={at(usual)} y1={0} y2={HEIGHT} />
        )}
        <line
          className="interval"
          x1={at(interval[0])}
          x2={at(interval[1])}
          y1={HEIGHT / 2}
          y2={HEIGHT / 2}
        />
        <circle cx={at(share)} cy={HEIGHT / 2} r={3.2} />
      </svg>
      <span aria-hidden="true">{share.toFixed(0)}</span>
      <span className="visually-hidden">{title}</span>
    </span>
  );
}
