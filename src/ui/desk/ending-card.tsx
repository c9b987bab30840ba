'use client';

import { useTranslations } from 'next-intl';
import { useQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import {
  isCertain,
  MOST_MEN,
  TABLE_MEN,
  type EndingAnswer,
  type EndingMove,
  type EndingWorth,
} from '@/contract/endings';
import { EXACT_DEPTH } from '@/core/review/evaluation';
import { scoreText } from '../format';
import { rove } from '../roving';
import { useCardPlace } from './card-place';
import { DeskCard } from './desk-card';
import { useReview } from './desk-review';
import { useDesk } from './desk-store';
import { endingQuery } from './ending-query';
import { EndingProof, menIn, useProof } from './ending-proof';
import { useLinePreview, type Preview } from './line-moves';
import { MateCard } from './mate-card';
import { MissedPattern } from './missed-pattern';
import { MoveHere } from './move-here';
import { useMoveHere } from './use-move-here';

/** What is certain about what is on the board: in chess what few men are worth, in shogi mates and how near an impasse is. */
export function EndingCard() {
  const ruleset = useDesk(({ view }) => view.ruleset);
  return ruleset.kind === 'chess' ? <ChessEnding /> : <MateCard />;
}

/** What a position with few men is worth, and which of its moves keep that. */
function ChessEnding() {
  const t = useTranslations('ending');
  const place = useCardPlace();
  const ruleset = useDesk(({ view }) => view.ruleset);
  const position = ruleset.write(place.position);
  const men = menIn(position);
  const { card, onPreview, preview } = useLinePreview<HTMLDivElement>();
  const { data } = useQuery({ ...endingQuery(position), enabled: men <= MOST_MEN });
  const answer = men <= MOST_MEN ? data : undefined;
  const worth = answer?.worth;
  const isResultKnown = worth !== undefined && worth !== null && isCertain(worth);
  // each move is to be known, not the result alone
  const isOpen = !isResultKnown || !answer?.moves.every(isCertain);
  const isProvable = answer !== undefined && answer.tables !== 'coming';
  const proof = useProof(position, isProvable && isOpen);
  const absent =
    men > MOST_MEN || answer?.tables === 'none'
      ? 'outside'
      : !answer
        ? 'asking'
        : answer.tables === 'coming'
          ? 'coming'
          : 'unknown';
  const made = answer?.made ?? { done: 0, of: 0 };
  return (
    <DeskCard
      name="ending"
      title={t('title')}
      className="ending-card"
      bodyRef={card}
      headline={
        proof.isUnderWay ? (
          t('proof.underWay')
        ) : answer && worth ? (
          <Headline worth={worth} answer={answer} />
        ) : (
          t(absent, { men, ...made })
        )
      }
    >
      {answer && worth ? (
        <Known worth={worth} answer={answer} onPreview={onPreview} />
      ) : (
        <p className="soft m-0">
          {t(`${absent}Long`, { men, most: TABLE_MEN, more: men - TABLE_MEN, ...made })}
        </p>
      )}
      <EndingProof proof={proof} isResultKnown={isResultKnown} />
      {preview}
    </DeskCard>
  );
}

/** Moves until the mate, counted by who gives it. */
const movesTo = (plies: number): number => Math.ceil(plies / 2);

/** What is said of a worth: its result, or on which side of a draw it lies. */
const nameOf = ({ least, most }: EndingWorth) =>
  least === most ? least : least === 'draw' ? 'atLeast' : most === 'draw' ? 'atMost' : 'open';

/** Moves that surely leave the result as it is. */
const keeping = ({ least }: EndingWorth, moves: readonly EndingMove[]): EndingMove[] =>
  moves.filter((move) => isCertain(move) && move.least === least);

function Headline({ worth, answer: { moves } }: { worth: EndingWorth; answer: EndingAnswer }) {
  const t = useTranslations('ending');
  const name = nameOf(worth);
  if (name === 'atLeast' || name === 'atMost' || name === 'open') return t(`worth.${name}`);
  const said =
    worth.plies === null || worth.isAtMost
      ? t(`headline.${name}`)
      : t(`mate.${name}`, { moves: movesTo(worth.plies) });
  const kept = keeping(worth, moves).length;
  if (moves.length === 0 || name === 'loss' || !moves.every(isCertain)) return said;
  return `${said} · ${kept === 1 ? t('onlyMove') : t('keep', { count: kept, of: moves.length })}`;
}

function Known({
  worth,
  answer,
  onPreview,
}: {
  worth: EndingWorth;
  answer: EndingAnswer;
  onPreview(preview: Preview | null): void;
}) {
  const t = useTranslations('ending');
  const place = useCardPlace();
  const { evaluations } = useReview();
  const view = useDesk((state) => state.view);
  const { play } = useMoveHere(place);
  const { moves, comesTooLate, made } = answer;
  const { ruleset } = view;
  const atNode = place.way.length === 0 && view.isMainLine(place.node);
  const evaluation = atNode ? evaluations[view.plyOf(place.node)] : undefined;
  const found = evaluation?.depth === EXACT_DEPTH ? undefined : evaluation?.lines[0]?.score;
  const guess = useDesk((state) => (state.guess?.place === place.name ? state.guess.score : found));
  const groups = (['win', 'atLeast', 'draw', 'open', 'atMost', 'loss'] as const)
    .map((name) => ({ name, of: moves.filter((move) => nameOf(move) === name) }))
    .filter(({ of }) => of.length > 0);
  const own = nameOf(worth);
  const [best] = moves;
  const { plies } = worth;
  return (
    <>
      <p className="m-0">
        <strong>{t(`worth.${own}`)}</strong>
        {plies !== null &&
          ` · ${t(worth.isAtMost ? 'distanceAtMost' : 'distance', { moves: movesTo(plies), plies })}`}
        {guess && (
          <span className="soft">
            {' '}
            {t('guess', { score: scoreText(guess, ruleset.side(place.position), ruleset) })}
          </span>
        )}
      </p>
      {made && own !== 'draw' && <p className="soft m-0">{t('distanceComing', made)}</p>}
      <MissedPattern answer={answer} />
      {comesTooLate && <p className="m-0">{t('tooLate')}</p>}
      {groups.map(({ name, of }) => (
        <div key={name} className="ending-moves" onKeyDown={rove}>
          <span className={name === own ? '' : 'soft'}>
            {t(
              name !== own || !isCertain(worth) || (name === 'loss' && made)
                ? `becomes.${name}`
                : name === 'draw' || made
                  ? 'keepsDraw'
                  : name === 'loss'
                    ? 'loses'
                    : 'keeps',
              {
                count: of.length,
              },
            )}
          </span>
          {of.map((move, index) => (
            <MoveHere
              key={move.move}
              code={move.move}
              title={move.replies === null ? null : t('replies', { count: move.replies })}
              isStop={index === 0}
              onPreview={onPreview}
            >
              {move.plies !== null && (
                <span className="soft">
                  {' '}
                  {move.isAtMost && '≤\u202f'}
                  {movesTo(move.plies + 1)}
                </span>
              )}
            </MoveHere>
          ))}
        </div>
      ))}
      {own === 'loss' && <Hardest moves={moves} onPreview={onPreview} />}
      {best && isCertain(worth) && (
        <Button variant="plain" size="sm" onClick={() => play(best.move)}>
          {t(own === 'loss' && !made ? 'playLongest' : 'playBest')}
        </Button>
      )}
    </>
  );
}

/** Of a lost position, the moves after which the fewest replies win; nothing where all leave as many. */
function Hardest({
  moves,
  onPreview,
}: {
  moves: readonly EndingMove[];
  onPreview(preview: Preview | null): void;
}) {
  const t = useTranslations('ending');
  const counts = moves.flatMap(({ replies }) => replies ?? []);
  const fewest = Math.min(...counts);
  if (counts.length < moves.length || counts.every((count) => count === fewest)) return null;
  return (
    <div className="ending-moves" onKeyDown={rove}>
      <span className="soft">{t('hardest', { count: fewest })}</span>
      {moves
        .filter(({ replies }) => replies === fewest)
        .map(({ move }, index) => (
          <MoveHere
            key={move}
            code={move}
            title={null}
            isStop={index === 0}
            onPreview={onPreview}
          />
        ))}
    </div>
  );
}
