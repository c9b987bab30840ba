'use client';

import { useTranslations } from 'next-intl';
import { useQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import {
  askEnding,
  MOST_MEN,
  TABLE_MEN,
  type EndingAnswer,
  type EndingMove,
} from '@/contract/endings';
import { EXACT_DEPTH } from '@/core/review/evaluation';
import { call } from '../call';
import { scoreText } from '../format';
import { rove } from '../roving';
import { useCardPlace } from './card-place';
import { DeskCard } from './desk-card';
import { useReview } from './desk-review';
import { useDesk } from './desk-store';
import { useLinePreview, type Preview } from './line-moves';
import { MateCard } from './mate-card';
import { MoveHere } from './move-here';
import { useMoveHere } from './use-move-here';

/** How soon it is asked again for tables that are being made. */
const COMING_MS = 5000;

/** Men on the board of a FEN, kings among them. */
const menIn = (fen: string): number => fen.split(' ', 1)[0]!.replaceAll(/[^a-z]/gi, '').length;

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
  const { data } = useQuery({
    queryKey: ['ending', position],
    queryFn: () => call(askEnding, { query: { position } }),
    enabled: men <= MOST_MEN,
    staleTime: ({ state }) => (state.data?.tables === 'coming' ? 0 : Infinity),
    refetchInterval: ({ state }) => (state.data?.tables === 'coming' ? COMING_MS : false),
  });
  const answer = men <= MOST_MEN ? data : undefined;
  const known = answer?.exact ? answer : null;
  const absent =
    men > MOST_MEN || answer?.tables === 'none'
      ? 'outside'
      : !answer
        ? 'asking'
        : answer.tables === 'coming'
          ? 'coming'
          : 'unknown';
  return (
    <DeskCard
      name="ending"
      title={t('title')}
      className="ending-card"
      bodyRef={card}
      headline={known ? <Headline answer={known} /> : t(absent, { men })}
    >
      {known ? (
        <Known answer={known} onPreview={onPreview} />
      ) : (
        <p className="soft m-0">
          {t(`${absent}Long`, { men, most: TABLE_MEN, more: men - TABLE_MEN })}
        </p>
      )}
      {preview}
    </DeskCard>
  );
}

/** Moves until the mate, counted by who gives it. */
const movesTo = (plies: number): number => Math.ceil(plies / 2);

/** Those that leave the result as it is. */
const keeping = ({ exact, moves }: EndingAnswer): EndingMove[] =>
  moves.filter(({ result }) => result === exact!.result);

function Headline({ answer }: { answer: EndingAnswer }) {
  const t = useTranslations('ending');
  const { result, plies } = answer.exact!;
  const said = t(`mate.${result}`, { moves: movesTo(plies ?? 0) });
  const kept = keeping(answer).length;
  if (answer.moves.length === 0) return said;
  if (result === 'loss') return said;
  return `${said} · ${kept === 1 ? t('onlyMove') : t('keep', { count: kept, of: answer.moves.length })}`;
}

function Known({
  answer,
  onPreview,
}: {
  answer: EndingAnswer;
  onPreview(preview: Preview | null): void;
}) {
  const t = useTranslations('ending');
  const place = useCardPlace();
  const { evaluations } = useReview();
  const view = useDesk((state) => state.view);
  const { play } = useMoveHere(place);
  const { ruleset } = view;
  const atNode = place.way.length === 0 && view.isMainLine(place.node);
  const evaluation = atNode ? evaluations[view.plyOf(place.node)] : undefined;
  const guess = evaluation?.depth === EXACT_DEPTH ? undefined : evaluation?.lines[0];
  const { exact, moves } = answer;
  const groups = (['win', 'draw', 'loss'] as const)
    .map((result) => ({ result, of: moves.filter((move) => move.result === result) }))
    .filter(({ of }) => of.length > 0);
  const [best] = moves;
  return (
    <>
      <p className="m-0">
        <strong>{t(`result.${exact!.result}`)}</strong>
        {exact!.plies !== null &&
          ` · ${t('distance', { moves: movesTo(exact!.plies), plies: exact!.plies })}`}
        {guess && (
          <span className="soft">
            {' '}
            {t('guess', { score: scoreText(guess.score, ruleset.side(place.position), ruleset) })}
          </span>
        )}
      </p>
      {answer.comesTooLate && <p className="m-0">{t('tooLate')}</p>}
      {groups.map(({ result, of }) => (
        <div key={result} className="ending-moves" onKeyDown={rove}>
          <span className={result === exact!.result ? '' : 'soft'}>
            {t(
              result !== exact!.result
                ? `becomes.${result}`
                : result === 'draw'
                  ? 'keepsDraw'
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
              {move.plies !== null && <span className="soft"> {movesTo(move.plies + 1)}</span>}
            </MoveHere>
          ))}
        </div>
      ))}
      {best && (
        <Button variant="plain" size="sm" onClick={() => play(best.move)}>
          {t(exact!.result === 'loss' ? 'playLongest' : 'playBest')}
        </Button>
      )}
    </>
  );
}
