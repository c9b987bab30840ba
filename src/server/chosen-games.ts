import {
  and,
  arrayContains,
  eq,
  inArray,
  isNotNull,
  isNull,
  like,
  or,
  sql,
  type SQL,
} from 'drizzle-orm';
import { CHOICE_NAMES, RANGES, readSpan, type GameFilter } from '@/contract/game-filter';
import { openingsWith } from '@/core/openings/all-openings';
import { database } from './database';
import { factsFor } from './game-facts';
import { wordsOf } from './library-index';
import { reviewing } from './own-side';
import type { Owner, OwnerRef } from './owner';
import { collectionGames, games } from './schema';

/** A filter, or games one by one; sheets of preparation only where they are asked for. */
export interface GameChoice extends GameFilter {
  ids?: readonly number[] | undefined;
  prepared?: true;
}

/** All that the owner has, sheets of preparation too, but what was deleted. */
export const presentGames = (owner: OwnerRef): SQL =>
  and(eq(games.ownerId, owner.id), isNull(games.deletedAt))!;

/** The owner's games, but those that were deleted. */
export const playedGames = (owner: OwnerRef): SQL =>
  and(presentGames(owner), isNull(games.preparedFor))!;

/** The owner's games that a filter holds. */
export function gamesOf(owner: Owner, filter: GameChoice): SQL {
  const facts = factsFor(reviewing(owner, filter));
  const conditions: (SQL | undefined)[] = [
    filter.deleted === undefined
      ? presentGames(owner)
      : and(
          eq(games.ownerId, owner.id),
          filter.deleted === 'yes'
            ? isNotNull(games.deletedAt)
            : eq(games.deletedAt, new Date(filter.deleted)),
        ),
    filter.prepared
      ? isNotNull(games.preparedFor)
      : // games one by one, and what was deleted at one time, are what they are
        filter.ids || (filter.deleted !== undefined && filter.deleted !== 'yes')
        ? undefined
        : isNull(games.preparedFor),
    filter.kind && eq(games.kind, filter.kind),
    filter.ids && inArray(games.id, [...filter.ids]),
    filter.opening === undefined
      ? undefined
      : // of none to look for, none is found
        inArray(games.opening, ['-', ...openingsWith(filter.opening)]),
    filter.label === undefined ? undefined : arrayContains(games.labels, [filter.label]),
  ];
  const seats = { first: games.firstPlayerId, second: games.secondPlayerId };
  for (const player of [filter.player, filter.against])
    if (player !== undefined)
      conditions.push(or(...Object.values(seats).map((seat) => eq(seat, player))));
  if (filter.player !== undefined && filter.playing !== undefined)
    conditions.push(eq(seats[filter.playing], filter.player));
  if (filter.collection !== undefined)
    conditions.push(
      inArray(
        games.id,
        database()
          .select({ id: collectionGames.gameId })
          .from(collectionGames)
          .where(eq(collectionGames.collectionId, filter.collection)),
      ),
    );
  if (filter.date !== undefined) {
    const { from, to } = readSpan(filter.date);
    if (from !== null) conditions.push(sql`${games.date} >= ${from}`);
    if (to !== null) conditions.push(sql`left(${games.date}, ${to.length}::integer) <= ${to}`);
  }
  for (const name of CHOICE_NAMES) {
    const values = filter[name]?.split(',');
    if (values)
      conditions.push(
        sql`${facts[name]} in (${sql.join(
          values.map((value) => sql`${value}`),
          sql`, `,
        )})`,
      );
  }
  for (const name of RANGES) {
    const span = filter[name];
    if (span === undefined) continue;
    const { from, to } = readSpan(span);
    if (from !== null) conditions.push(sql`${facts[name]} >= ${from}::real`);
    if (to !== null) conditions.push(sql`${facts[name]} <= ${to}::real`);
  }
  for (const word of wordsOf(filter.text)) {
    const pattern = patternOf(word);
    conditions.push(or(like(games.searchText, pattern), like(games.words, pattern)));
  }
  return and(...conditions)!;
}

export const patternOf = (word: string): string => `%${word.replace(/[\\%_]/g, '\\$&')}%`;
