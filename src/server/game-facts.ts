import { sql, type SQL } from 'drizzle-orm';
import type { Choice, Range } from '@/contract/game-filter';
import type { Column } from '@/contract/library';
import { GAME_KINDS } from '@/core/game/ruleset';
import { SIDE_FIGURES, type SideFigure } from '@/core/review/game-figures';
import { rulesetOf } from '@/core/rulesets';
import { ownSideSql, type Reviewing } from './own-side';
import { games } from './schema';

/** What can be said of a row of games, as PostgreSQL reckons it. */
export type GameFacts = Readonly<Record<Column | Choice | Range, SQL>>;

/** Kinds whose moves are counted by both sides' together. */
const BY_MOVE = GAME_KINDS.filter((kind) => rulesetOf(kind).numbering === 'move');

/** The facts of an owner's games, some of which depend on which side is the owner's. */
export function factsFor(owner: Pick<Reviewing, 'playerId' | 'isOther'>): GameFacts {
  const own = ownSideSql(owner);
  const bySide = (first: SQL, second: SQL): SQL =>
    sql`case ${own} when 0 then ${first} when 1 then ${second} end`;
  const figure = (name: SideFigure): { own: SQL; other: SQL; most: SQL } => {
    const place = sql.raw(`${SIDE_FIGURES.indexOf(name) + 1}`);
    const first = sql`${games.firstFigures}[${place}]`;
    const second = sql`${games.secondFigures}[${place}]`;
    return {
      own: bySide(first, second),
      other: bySide(second, first),
      most: sql`case ${own} when 0 then ${first} when 1 then ${second} else greatest(${first}, ${second}) end`,
    };
  };
  const yesNo = (is: SQL): SQL => sql`case when ${is} then 'yes' else 'no' end`;
  const orUnknown = (value: SQL): SQL => sql`coalesce(${value}, 'unknown')`;
  return {
    kind: sql`${games.kind}`,
    date: sql`${games.date}`,
    players: sql`coalesce(${games.firstPlayer}, ${games.secondPlayer})`,
    event: sql`${games.event}`,
    opening: sql`nullif(${games.opening}, '')`,
    timeControl: sql`${games.timeControl}`,
    labels: sql`${games.labels}[1]`,
    added: sql`${games.createdAt}`,
    lastOpened: sql`${games.openedAt}`,
    outcome: sql`case when ${games.result} = '1/2-1/2' then case when ${own} is null then 'unknown' else 'drawn' end
      else coalesce(${bySide(
        sql`case ${games.result} when '1-0' then 'won' when '0-1' then 'lost' end`,
        sql`case ${games.result} when '0-1' then 'won' when '1-0' then 'lost' end`,
      )}, 'unknown') end`,
    side: sql`case ${own} when 0 then 'first' when 1 then 'second' else 'unknown' end`,
    timeClass: orUnknown(sql`${games.timeClass}`),
    rated: orUnknown(
      sql`case when ${games.rated} then 'yes' when not ${games.rated} then 'no' end`,
    ),
    end: orUnknown(sql`${games.endReason}`),
    trend: orUnknown(sql`${games.trend}`),
    swept: yesNo(sql`${games.depth} is not null`),
    annotated: yesNo(sql`${games.annotated}`),
    opened: yesNo(sql`${games.openedAt} is not null`),
    hour: sql`case when ${games.time} ~ '^[0-2][0-9]' then left(${games.time}, 2)::integer end`,
    moves: sql`case when ${games.kind} in (${sql.join(
      BY_MOVE.map((kind) => sql`${kind}`),
      sql`, `,
    )}) then (${games.plies} + 1) / 2 else ${games.plies} end`,
    rating: bySide(sql`${games.firstRating}`, sql`${games.secondRating}`),
    otherRating: bySide(sql`${games.secondRating}`, sql`${games.firstRating}`),
    accuracy: figure('accuracy').own,
    otherAccuracy: figure('accuracy').other,
    meanLoss: figure('meanLoss').most,
    worst: figure('worstLoss').most,
    inaccuracies: figure('inaccuracies').most,
    mistakes: figure('mistakes').most,
    blunders: figure('blunders').most,
    turningPoints: sql`${games.turningPoints}`,
    letOffs: figure('letOffs').most,
    peak: figure('peak').own,
    depth: sql`${games.depth}`,
  };
}
