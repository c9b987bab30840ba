'use client';

import { useTranslations } from 'next-intl';
import { HASTY_MS } from '@/core/game/clock';
import type { Side } from '@/core/game/ruleset';
import { wholeLoss } from '@/core/review/chance';
import { isFind, isFlag, VERDICT_NAG } from '@/core/review/verdict';
import { useSideName } from '../side-name';
import { useSaySettings } from '../use-say-settings';
import { AccuracyTable } from './accuracy-table';
import { useCardPlace } from './card-place';
import { DeskCard } from './desk-card';
import { useReview } from './desk-review';
import { useDesk, useMay } from './desk-store';
import { Sign } from './sign';
import { Changes, FailingVariations } from './review-lists';
import { ReviewSummary } from './review-summary';
import { useDeskShortcuts } from './shortcuts';
import { isOpenSweep, SweepControl, useSweep } from './sweep-control';
import { useMateText } from './use-mate-text';
import { useSeenText } from './use-seen-text';

/** How well each side played, and the sweep that says so. */
export function ReviewCard() {
  const t = useTranslations('review');
  const view = useDesk((state) => state.view);
  const sideName = useSideName(view.ruleset);
  const { review, shown, turningPoints } = useReview();
  const { isUnderWay, failed, start, stop } = useSweep();
  const sweeping = useTranslations('sweep');
  const mayEdit = useMay('edit');
  useDeskShortcuts({ sweep: () => void (mayEdit && (isUnderWay ? stop() : start())) });
  const say = useSaySettings();
  const think = useTranslations('think');
  const gameId = useDesk((state) => state.gameId);
  const unsettled = review?.moves.filter((found) => found?.isUnsettled).length ?? 0;
  /** How many turning points a side played without thinking. */
  const hastyAt = (side: Side): number =>
    turningPoints.filter(
      (ply) =>
        review?.moves[ply - 1]?.side === side &&
        (view.timeAtPly(ply)?.spent ?? Infinity) < HASTY_MS,
    ).length;
  return (
    <DeskCard
      name="review"
      title={t('title')}
      headline={failed ? sweeping('notSent') : <ReviewHeadline />}
      tools={
        review &&
        shown && (
          <span className="state">
            {t('state', { settings: say(shown.settings), turningPoints: turningPoints.length })}
          </span>
        )
      }
    >
      {review && <AccuracyTable review={review} />}
      {review && <ReviewSummary review={review} />}
      {review && <FailingVariations />}
      {review && <Changes />}
      {unsettled > 0 && <p className="soft small mb-2">{t('unsettled', { count: unsettled })}</p>}
      {([0, 1] as const).map((side) => {
        const hasty = hastyAt(side);
        return (
          hasty > 0 && (
            <p key={side} className="small mb-2">
              {t('hasty', {
                side: sideName(side),
                count: hasty,
                seconds: HASTY_MS / 1000,
              })}
            </p>
          )
        );
      })}
      {failed && (
        <p role="alert" className="mb-2">
          {sweeping('notSent')}
        </p>
      )}
      {!review && <p className="soft mb-2">{t('empty')}</p>}
      <div className="d-flex align-items-center gap-3 flex-wrap">
        {review && !isUnderWay && <SweepControl />}
        {/* a page of its own, which keeps nothing of what the Desk knows */}
        {review && <a href={`/games/${gameId}/think`}>{think('open')}</a>}
      </div>
    </DeskCard>
  );
}

/** What is to be said of the move on the board, else of the game. */
function ReviewHeadline() {
  const t = useTranslations('review');
  const finding = useTranslations('finding');
  const place = useCardPlace();
  const view = useDesk((state) => state.view);
  const seenText = useSeenText();
  const mateText = useMateText();
  const { review, sweep } = useReview();
  if (!review)
    return sweep && isOpenSweep(sweep.state)
      ? t('headlineUnderWay', { done: sweep.done, total: sweep.total })
      : t('headlineNone');
  const isOnMainLine = place.way.length === 0 && view.isMainLine(place.node);
  const found = isOnMainLine ? (review.moves[view.plyOf(place.node) - 1] ?? null) : null;
  if (!found) {
    const [first, second] = review.accuracy.map(({ value }) => value?.toFixed(0) ?? '–');
    return t('headlineGame', { first: first!, second: second! });
  }
  const { verdict, loss, rank, linesKnown, seen, spent } = found;
  const facts = [
    wholeLoss(loss) > 0 ? `−${wholeLoss(loss)}` : t('headlineNoLoss'),
    ...mateText(found),
    ...(isFlag(verdict) && linesKnown > 1 && rank !== null ? [t('headlineChoice', { rank })] : []),
    ...(isFind(verdict) ? [finding('onlyMove')] : []),
    ...(seen ? [seenText(seen)] : []),
    ...(spent === null ? [] : [t('headlineSeconds', { seconds: Math.round(spent / 1000) })]),
  ];
  return (
    <>
      {verdict !== 'none' && <Sign nag={VERDICT_NAG[verdict]} />} {facts.join(', ')}
    </>
  );
}
