import { wordOfSide } from '@/contract/shapes';
import type { Metadata } from 'next';
import Link from 'next/link';
import type { ComponentProps } from 'react';
import { notFound } from 'next/navigation';
import { getTranslations } from 'next-intl/server';
import { gamesAsTheirs, libraryHref } from '@/contract/library';
import { GAME_KINDS, type GameKind, type Side } from '@/core/game/ruleset';
import { gamesIn, scoreOf } from '@/core/game/score-share';
import { rulesetOf } from '@/core/rulesets';
import { parseId } from '@/server/ids';
import type { Owner } from '@/server/owner';
import { peersOf } from '@/server/peers';
import {
  findPlayer,
  gamesOfPlayer,
  listPlayers,
  MOST_PLAYED,
  type PlayedGame,
} from '@/server/players';
import { AccuracyBeside } from '@/ui/players/accuracy-beside';
import { PlayedOpenings } from '@/ui/players/played-openings';
import { PlayerTools } from '@/ui/players/player-tools';
import { RatingChart, type RatedDay } from '@/ui/players/rating-chart';
import { ScoreText } from '@/ui/players/score-text';
import { Masthead } from '@/ui/shell/masthead';
import { signedIn } from '../../visit';

interface Props {
  params: Promise<{ id: string }>;
}

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('players'))('player') };
}

/** Opponents that are listed, those met most often. */
const MOST_OPPONENTS = 30;

interface Opponent {
  id: number;
  name: string;
  games: PlayedGame[];
}

function opponentsOf(played: readonly PlayedGame[]): Opponent[] {
  const met = new Map<number, Opponent>();
  for (const game of played) {
    if (game.opponentId === null || game.opponent === null) continue;
    const known = met.get(game.opponentId);
    if (known) known.games.push(game);
    else met.set(game.opponentId, { id: game.opponentId, name: game.opponent, games: [game] });
  }
  return [...met.values()].sort((a, b) => b.games.length - a.games.length);
}

/** Ratings on days that are known, the earliest first. */
const ratedDays = (played: readonly PlayedGame[]): RatedDay[] =>
  played
    .flatMap(({ kind, date, rating, timeClass }) =>
      rating !== null && date !== null && /^\d{4}-\d\d-\d\d$/.test(date)
        ? [{ kind, date, rating, timeClass }]
        : [],
    )
    .reverse();

/** Points of rating by which those may differ who are set beside a player. */
const RATED_ALIKE = 100;

/** How accurately a player plays, beside those who are rated about as they were in their latest game; null where no game was gone over. */
async function accuracyOf(
  reader: Owner,
  name: string,
  played: readonly PlayedGame[],
  kind: GameKind,
): Promise<ComponentProps<typeof AccuracyBeside> | null> {
  const games = played.filter((game) => game.kind === kind);
  const swept = games.filter(({ accuracy }) => accuracy !== null);
  if (swept.length === 0) return null;
  const rating = games.find((game) => game.rating !== null)?.rating ?? null;
  const rated = rating === null ? null : { from: rating - RATED_ALIKE, to: rating + RATED_ALIKE };
  return {
    kind,
    name,
    own: {
      accuracies: swept.map(({ accuracy }) => accuracy!),
      depth: swept.reduce((sum, { depth }) => sum + (depth ?? 0), 0) / swept.length,
    },
    rated,
    peers: rated ? await peersOf(reader, kind, rated) : [],
  };
}

/** One player's games in figures: how their ratings went, what they score as either side, and against whom. */
export default async function PlayerPage({ params }: Props) {
  const t = await getTranslations('players');
  const kinds = await getTranslations('games');
  const sides = await getTranslations('sides');
  const owner = await signedIn();
  const id = parseId((await params).id);
  const player = id === null ? null : await findPlayer(owner, id);
  if (!player) notFound();
  const played = await gamesOfPlayer(owner, player.id);
  const others = (await listPlayers(owner)).filter((other) => other.id !== player.id);
  const opponents = opponentsOf(played);
  const theirs = gamesAsTheirs(player);
  const playedHref = (kind: GameKind, side: Side): string =>
    libraryHref({ ...theirs, kind, playing: wordOfSide(side) });
  const days = ratedDays(played);
  const accuracy = await Promise.all(
    GAME_KINDS.map((kind) => accuracyOf(owner, player.name, played, kind)),
  );
  return (
    <>
      <Masthead />
      <main className="page d-flex flex-column gap-3" id="main">
        <div className="d-flex align-items-baseline gap-3 flex-wrap">
          <h1 className="m-0 text-break">{player.name}</h1>
          {player.isSelf && <span className="soft">{t('me')}</span>}
          <Link href={libraryHref(theirs)}>{t('gamesOf', { games: player.games })}</Link>
        </div>
        {played.length >= MOST_PLAYED && (
          <p className="soft">{t('latestGames', { most: MOST_PLAYED })}</p>
        )}
        <div className="side-by-side">
          <section className="quiet-box" aria-labelledby="scores">
            <h2 id="scores">{t('scores')}</h2>
            <table className="games-table">
              <tbody>
                {GAME_KINDS.flatMap((kind) =>
                  ([0, 1] as const).map((side) => {
                    const score = scoreOf(
                      played.filter((game) => game.kind === kind && game.side === side),
                    );
                    return (
                      gamesIn(score) > 0 && (
                        <tr key={`${kind}${side}`}>
                          <th scope="row">
                            {[kinds(kind), sides(`${kind}.${rulesetOf(kind).sides[side]}`)].join(
                              ', ',
                            )}
                          </th>
                          <td>
                            <Link href={playedHref(kind, side)}>
                              <ScoreText score={score} />
                            </Link>
                          </td>
                        </tr>
                      )
                    );
                  }),
                )}
              </tbody>
            </table>
          </section>
          <PlayerTools player={player} others={others} />
        </div>
        <div className="side-by-side">
          {GAME_KINDS.map((kind) => {
            const ofKind = days.filter((day) => day.kind === kind);
            return (
              ofKind.length > 0 && (
                <section key={kind} className="quiet-box" aria-labelledby={`ratings-${kind}`}>
                  <h2 id={`ratings-${kind}`}>{t('ratings', { game: kinds(kind) })}</h2>
                  <RatingChart days={ofKind} />
                </section>
              )
            );
          })}
        </div>
        {accuracy.map((one) => one && <AccuracyBeside key={one.kind} {...one} />)}
        <PlayedOpenings
          player={player}
          played={played}
          own={
            player.isSelf || owner.playerId === null
              ? null
              : await gamesOfPlayer(owner, owner.playerId)
          }
        />
        {opponents.length > 0 && (
          <section className="quiet-box" aria-labelledby="opponents">
            <h2 id="opponents">{t('opponents')}</h2>
            <table className="games-table">
              <thead>
                <tr>
                  <th>{t('name')}</th>
                  <th>{t('scoreColumn')}</th>
                  <th>{t('latest')}</th>
                </tr>
              </thead>
              <tbody>
                {opponents.slice(0, MOST_OPPONENTS).map((opponent) => (
                  <tr key={opponent.id}>
                    <td className="wide">
                      <Link href={`/players/${opponent.id}`}>{opponent.name}</Link>
                    </td>
                    <td>
                      <Link href={libraryHref({ ...theirs, against: opponent.id })}>
                        <ScoreText score={scoreOf(opponent.games)} />
                      </Link>
                    </td>
                    <td>{opponent.games[0]!.date ?? '–'}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            {opponents.length > MOST_OPPONENTS && (
              <p className="soft m-0">
                {t('moreOpponents', { count: opponents.length - MOST_OPPONENTS })}
              </p>
            )}
          </section>
        )}
      </main>
    </>
  );
}
