'use client';

import Link from 'next/link';
import { useTranslations } from 'next-intl';
import { useMemo, type ReactNode } from 'react';
import { RANGES } from '@/contract/game-filter';
import type { GameSummary, ShownColumn } from '@/contract/library';
import { outcomeFor } from '@/core/game/score-share';
import type { SideFigure } from '@/core/review/game-figures';
import { wholeLoss } from '@/core/review/chance';
import { rulesetOf } from '@/core/rulesets';
import { resultKey } from '../result-key';
import { OpeningName } from '../opening-name';
import { LeftAt } from './left-at';
import { MomentLink } from './moment-link';

/** Those that a narrow screen has room for. */
const NARROW = new Set<ShownColumn>(['date', 'players', 'outcome']);
/** Those whose figures stand below each other: a worst moment is no figure, though it is found by one. */
const FIGURES = new Set<ShownColumn>(RANGES.filter((name) => name !== 'worst'));
/** Those that give way to the others: what does not fit in them is left out. */
const WIDE = new Set<ShownColumn>(['event', 'opening', 'leftBase', 'leftPreparation']);
/** Those of which the least is looked for first. */
const LEAST_FIRST = new Set<ShownColumn>([
  ...([
    'players',
    'event',
    'opening',
    'kind',
    'accuracy',
    'labels',
    'outcome',
    'side',
    'timeControl',
  ] as const),
  ...(['timeClass', 'rated', 'end', 'trend', 'annotated', 'hour'] as const),
]);

export const columnClass = (column: ShownColumn): string =>
  [
    NARROW.has(column) ? '' : 'd-none d-sm-table-cell',
    FIGURES.has(column) ? 'text-end' : '',
    column === 'players' ? 'wide players' : WIDE.has(column) ? 'wide' : '',
  ].join(' ');

export const firstWay = (column: ShownColumn): 'up' | 'down' =>
  LEAST_FIRST.has(column) ? 'up' : 'down';

/** What a column says of a game; the same function as long as the language is. @param isOwn whether what is one side's is the reader's */
export function useCell(isOwn: boolean): (column: ShownColumn, game: GameSummary) => ReactNode {
  const t = useTranslations('library');
  const games = useTranslations('games');
  const results = useTranslations('results');
  const handicaps = useTranslations('handicaps');
  const sides = useTranslations('sides');
  const trends = useTranslations('figures.trends');
  const ends = useTranslations('gameCard.ends');
  return useMemo(() => {
    const day = (iso: string | null): string => iso?.slice(0, 10) ?? '';

    /** Of the owner's side; of both, where that is not known. */
    const figure = (
      { figures, ownSide }: GameSummary,
      name: SideFigure,
      digits: number,
      other = false,
    ): string => {
      if (!figures) return '';
      const text = (side: 0 | 1): string => figures[side][name]?.toFixed(digits) ?? '–';
      if (ownSide === null) return other ? '' : `${text(0)} · ${text(1)}`;
      return text(other === (ownSide === 0) ? 1 : 0);
    };
    const player = (game: GameSummary, side: 0 | 1): ReactNode => (
      <span className={game.result === (side === 0 ? '1-0' : '0-1') ? 'won' : undefined}>
        {game.players[side] ?? '?'}
        {game.ratings[side] !== null && <span className="soft"> {game.ratings[side]}</span>}
        {isOwn && game.ownSide === side && (
          <span className="visually-hidden"> ({games('you')})</span>
        )}
      </span>
    );
    const rating = ({ ratings, ownSide }: GameSummary, other: boolean): ReactNode =>
      ownSide === null ? '' : ratings[other === (ownSide === 0) ? 1 : 0];

    const cell = (column: ShownColumn, game: GameSummary): ReactNode => {
      switch (column) {
        case 'date':
          return game.date ?? '–';
        case 'opening':
          return game.opening === null ? '' : <OpeningName text={game.opening} />;
        case 'kind':
          return <span className="soft">{games(game.kind)}</span>;
        case 'players':
          return (
            <Link href={`/games/${game.id}`} prefetch={false}>
              {player(game, 0)} – {player(game, 1)}
            </Link>
          );
        case 'outcome': {
          const outcome = game.ownSide === null ? null : outcomeFor(game.result, game.ownSide);
          return (
            <span className="text-nowrap">
              {results(resultKey(game, game.result))}
              {outcome && <span className="soft"> {t(`values.outcome.${outcome}`)}</span>}
            </span>
          );
        }
        case 'side':
          return game.ownSide === null
            ? ''
            : sides(`${game.kind}.${rulesetOf(game.kind).sides[game.ownSide]}`);
        case 'event':
          return (
            <>
              {game.event ?? '–'}
              {game.round && <span className="soft"> {games('round', { round: game.round })}</span>}
              {game.handicap && (
                <span className="soft"> · {handicaps(game.handicap as 'even')}</span>
              )}
            </>
          );
        case 'timeControl':
          return game.timeControl ?? '';
        case 'timeClass':
          return game.timeClass === null ? '' : t(`values.timeClass.${game.timeClass}`);
        case 'rated':
          return game.rated === null ? '' : t(`values.rated.${game.rated ? 'yes' : 'no'}`);
        case 'end':
          return game.end === null ? '' : ends(game.end.replaceAll(/[ -]/g, '') as 'time');
        case 'labels':
          return game.labels.map((label) => (
            <span key={label} className="label">
              {label}
            </span>
          ));
        case 'added':
          return day(game.added);
        case 'lastOpened':
          return day(game.lastOpened);
        case 'annotated':
          return game.annotated ? t('values.annotated.yes') : '';
        case 'trend':
          return game.trend === null ? '' : trends(game.trend);
        case 'hour':
          return game.time?.slice(0, 5) ?? '';
        case 'moves':
          return rulesetOf(game.kind).numbering === 'move' ? Math.ceil(game.plies / 2) : game.plies;
        case 'rating':
        case 'otherRating':
          return rating(game, column === 'otherRating');
        case 'accuracy':
          return figure(game, 'accuracy', 0);
        case 'otherAccuracy':
          return figure(game, 'accuracy', 0, true);
        case 'worst':
          return <WorstMoment game={game} />;
        case 'meanLoss':
          return figure(game, 'meanLoss', 1);
        case 'inaccuracies':
        case 'mistakes':
        case 'blunders':
        case 'letOffs':
        case 'peak':
          return figure(game, column, 0);
        case 'turningPoints':
          return game.turningPoints ?? '';
        case 'depth':
          return game.depth?.toFixed(1) ?? '';
        case 'leftBase':
        case 'leftPreparation':
          return <LeftAt game={game} what={column} isOwn={isOwn} />;
      }
    };
    return cell;
  }, [isOwn, t, games, results, handicaps, sides, trends, ends]);
}

/** The move of the owner that lost most; of either side, where the owner's is not known. */
function WorstMoment({ game: { id, kind, figures, ownSide } }: { game: GameSummary }) {
  const t = useTranslations('library');
  if (!figures) return null;
  const [first, second] = figures;
  const side =
    ownSide ?? ((second.worstLoss ?? 0) > (first.worstLoss ?? 0) ? (1 as const) : (0 as const));
  const { worstPly: ply, worstLoss: loss } = figures[side];
  if (ply === null || loss === null) return <span className="soft">{t('noWorst')}</span>;
  const move = rulesetOf(kind).numbering === 'move' ? Math.ceil(ply / 2) : ply;
  return (
    <MomentLink gameId={id} kind={kind} ply={ply} side={side}>
      {t('worstMove', { loss: wholeLoss(loss), move })}
    </MomentLink>
  );
}
