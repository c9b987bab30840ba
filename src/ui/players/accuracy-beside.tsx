import Link from 'next/link';
import { useTranslations } from 'next-intl';
import type { GameKind } from '@/core/game/ruleset';
import { FEW_GAMES } from '@/core/game/score-share';
import { accuracyDiffers, meanAccuracy, shares, type MeanAccuracy } from '@/core/review/peers';
import { AccuracyGraph } from './accuracy-graph';

/** Games of somebody, or of some in a base who are rated alike. */
interface Played {
  accuracies: readonly number[];
  /** Plies to which they were looked at, on average; null where that is not known. */
  depth: number | null;
}

/** Plies by which depths may differ before that is said. */
const LIKE_DEPTH = 3;
const isUnlike = (one: number | null, other: number | null): boolean =>
  one === null || other === null || Math.abs(one - other) >= LIKE_DEPTH;

/** How accurately somebody plays, beside those of each base who are rated about alike. */
export function AccuracyBeside({
  kind,
  name,
  own,
  rated,
  peers,
}: {
  kind: GameKind;
  name: string;
  own: Played;
  /** Who counts as rated alike; null where no rating is known. */
  rated: { from: number; to: number } | null;
  peers: readonly (Played & { base: { id: number; name: string } })[];
}) {
  const t = useTranslations('players');
  const kinds = useTranslations('games');
  const mean = meanAccuracy(own.accuracies);
  if (!mean) return null;
  const others = peers.map((one) => ({
    ...one,
    name: t('ratedAlike', { base: one.base.name, ...rated! }),
    mean: meanAccuracy(one.accuracies)!,
  }));
  const rows = [{ name, accuracies: own.accuracies, mean }, ...others];
  const differs = (theirs: MeanAccuracy) =>
    Math.min(mean.games, theirs.games) < FEW_GAMES
      ? 'few'
      : (accuracyDiffers(mean, theirs) ?? 'none');
  return (
    <section className="quiet-box" aria-labelledby={`accuracy-${kind}`}>
      <h2 id={`accuracy-${kind}`}>{t('accuracyIn', { game: kinds(kind) })}</h2>
      <AccuracyGraph
        rows={rows.map((row) => ({
          name: row.name,
          games: row.mean.games,
          mean: row.mean.mean,
          shares: shares(row.accuracies),
        }))}
      />
      <div className="games-scroll">
        <table className="games-table">
          <thead>
            <tr>
              <th className="wide">{t('whoColumn')}</th>
              <th className="text-end">{t('gamesColumn')}</th>
              <th>{t('accuracyColumn')}</th>
              <th className="text-end">{t('depthColumn')}</th>
              <th>{t('besideColumn', { name })}</th>
            </tr>
          </thead>
          <tbody>
            <tr>
              <td className="wide">{name}</td>
              <Figures mean={mean} depth={own.depth} />
              <td />
            </tr>
            {others.map((other) => (
              <tr key={other.base.id}>
                <td className="wide">
                  <Link href="/bases">{other.name}</Link>
                </td>
                <Figures mean={other.mean} depth={other.depth} />
                <td>{t(`accuracyDiffers.${differs(other.mean)}`)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {others.some(({ depth }) => isUnlike(depth, own.depth)) && (
        <p className="soft small m-0">{t('otherDepth')}</p>
      )}
      {rated === null && <p className="soft small m-0">{t('noRating', { name })}</p>}
      {rated !== null && others.length === 0 && (
        <p className="soft small m-0">{t('noPeers', rated)}</p>
      )}
    </section>
  );
}

/** How many games, their mean accuracy with its error, and how deeply they were looked at. */
function Figures({
  mean: { mean, error, games },
  depth,
}: {
  mean: MeanAccuracy;
  depth: number | null;
}) {
  return (
    <>
      <td className="text-end">{games}</td>
      <td className={games < FEW_GAMES ? 'soft' : undefined}>
        <strong>{mean.toFixed(1)}</strong>{' '}
        {error !== null && <span className="soft">{`± ${error.toFixed(1)}`}</span>}
      </td>
      <td className="text-end">{depth?.toFixed(1) ?? '–'}</td>
    </>
  );
}
