import { and, asc, eq, gt, inArray, isNotNull, isNull, or, sql, type SQL } from 'drizzle-orm';
import type { Player } from '@/contract/players';
import { looseNameKey, nameKey } from '@/core/game/player-name';
import { outcomeFor, type Score } from '@/core/game/score-share';
import type { GameKind, Side } from '@/core/game/ruleset';
import { timeClassOf, type TimeClass } from '@/core/game/time-class';
import { readTimeControl } from '@/core/game/time-control';
import { SIDE_FIGURES } from '@/core/review/game-figures';
import { database, type Database, type Transaction } from './database';
import type { OwnerRef } from './owner';
import { playedGames } from './chosen-games';
import { lockPlayers, withPlayers } from './player-names';
import { games, playerNames, players } from './schema';

/** As many players as are listed. */
export const MOST_PLAYERS = 2000;

const own = (owner: OwnerRef, id: number): SQL =>
  and(eq(players.ownerId, owner.id), eq(players.id, id))!;

/** The owner's players, or those of them that are asked for. */
const select = async (
  owner: OwnerRef,
  only?: number,
  db: Database | Transaction = database(),
): Promise<Player[]> => {
  const of = (player: typeof games.firstPlayerId | typeof games.secondPlayerId): SQL =>
    only === undefined ? sql`` : sql`and ${player} = ${only}`;
  // a row for each game and side, so that an index serves either
  const played = db
    .select({
      playerId: sql<number>`played.player`.as('player'),
      games: sql<number>`count(*)::integer`.as('games'),
      latest: sql<string | null>`max(played.date)`.as('latest'),
    })
    .from(
      sql`(select first_player_id as player, date from games
          where ${playedGames(owner)} ${of(games.firstPlayerId)}
        union all select second_player_id, date from games
          where ${playedGames(owner)} and second_player_id is distinct from first_player_id ${of(games.secondPlayerId)}) as played`,
    )
    .groupBy(sql`played.player`)
    .as('counted');
  const rows = await db
    .select({
      id: players.id,
      name: players.name,
      isSelf: players.isSelf,
      names: sql<
        string[]
      >`array(select player_names.name from player_names where player_names.player_id = players.id order by 1)`,
      games: sql<number>`coalesce(${played.games}, 0)`,
      latest: played.latest,
    })
    .from(players)
    .leftJoin(played, eq(played.playerId, players.id))
    .where(only === undefined ? eq(players.ownerId, owner.id) : own(owner, only))
    .orderBy(sql`${players.isSelf} desc, ${played.games} desc nulls last`, asc(players.name))
    .limit(MOST_PLAYERS);
  return rows;
};

/** Who plays in an owner's games: the owner first, then those with most games. */
export const listPlayers = (owner: OwnerRef): Promise<Player[]> => select(owner);

export async function findPlayer(owner: OwnerRef, id: number): Promise<Player | null> {
  const [player] = await select(owner, id);
  return player ?? null;
}

/** Players whose names are made of the same words, so that they may be one person; the one with most games first in each group. */
export function lookalikes(all: readonly Player[]): Player[][] {
  const groups = new Map<string, Player[]>();
  for (const player of all)
    for (const key of new Set(player.names.map(looseNameKey)))
      groups.set(key, [...(groups.get(key) ?? []), player]);
  return [...groups.values()].filter((group) => group.length > 1);
}

export interface PlayerChange {
  name?: string | undefined;
  isSelf?: boolean | undefined;
  join: readonly number[];
  part?: string | undefined;
}

/** Changes who a player is; `missing` where there is none of the owner's, or one to be joined or parted is not there. */
export async function changePlayer(
  owner: OwnerRef,
  id: number,
  { name, isSelf, join, part }: PlayerChange,
): Promise<Player | 'missing'> {
  return database().transaction(async (tx) => {
    await lockPlayers(tx, owner);
    const [known] = await tx.select().from(players).where(own(owner, id));
    if (!known) return 'missing';
    if (join.length > 0 && !(await joinTo(tx, owner, id, join))) return 'missing';
    if (part !== undefined && !(await partFrom(tx, owner, id, part))) return 'missing';
    if (isSelf !== undefined) {
      await tx
        .update(players)
        .set({ isSelf: false })
        .where(
          and(
            eq(players.ownerId, owner.id),
            eq(players.isSelf, true),
            isSelf ? undefined : eq(players.id, id),
          ),
        );
      if (isSelf) await tx.update(players).set({ isSelf }).where(own(owner, id));
    }
    if (name !== undefined) await tx.update(players).set({ name }).where(own(owner, id));
    const [player] = await select(owner, id, tx);
    return player!;
  });
}

/**
 * Takes the name that most of some games have in common for one of a player's: the games of one file are said to be theirs. Nothing is
 * learnt where no name stands out, or where it is known to be the owner's. For a transaction that holds who the owner's players are.
 */
export async function learnNames(
  tx: Transaction,
  owner: OwnerRef,
  id: number,
  games: readonly (readonly [string | null, string | null])[],
): Promise<void> {
  const counts = new Map<string, number>();
  for (const names of games)
    for (const key of new Set(names.map((name) => nameKey(name ?? ''))))
      if (key !== '') counts.set(key, (counts.get(key) ?? 0) + 1);
  const [most, next] = [...counts].sort((a, b) => b[1] - a[1]);
  if (!most || most[1] <= games.length / 2 || most[1] === next?.[1]) return;
  const [bearer] = await tx
    .select({ id: players.id, isSelf: players.isSelf })
    .from(playerNames)
    .innerJoin(players, eq(players.id, playerNames.playerId))
    .where(and(eq(playerNames.ownerId, owner.id), eq(playerNames.key, most[0])));
  if (bearer && bearer.id !== id && !bearer.isSelf) await joinTo(tx, owner, id, [bearer.id]);
}

/** Players become one with another: their names and games are that one's. */
async function joinTo(
  tx: Transaction,
  owner: OwnerRef,
  id: number,
  others: readonly number[],
): Promise<boolean> {
  const rows = await tx
    .select({ id: players.id, isSelf: players.isSelf })
    .from(players)
    .where(and(eq(players.ownerId, owner.id), inArray(players.id, [...others])));
  if (rows.length < new Set(others).size || others.includes(id)) return false;
  const ids = rows.map((row) => row.id);
  await tx.update(playerNames).set({ playerId: id }).where(inArray(playerNames.playerId, ids));
  await tx.update(games).set({ firstPlayerId: id }).where(inArray(games.firstPlayerId, ids));
  await tx.update(games).set({ secondPlayerId: id }).where(inArray(games.secondPlayerId, ids));
  await tx.delete(players).where(inArray(players.id, ids));
  if (rows.some(({ isSelf }) => isSelf))
    await tx.update(players).set({ isSelf: true }).where(own(owner, id));
  return true;
}

/** One of a player's names is somebody else's, who becomes a player of their own. */
async function partFrom(
  tx: Transaction,
  owner: OwnerRef,
  id: number,
  name: string,
): Promise<boolean> {
  const key = nameKey(name);
  const names = await tx.select().from(playerNames).where(eq(playerNames.playerId, id));
  const parted = names.find((known) => known.key === key);
  if (!parted || names.length < 2) return false;
  const [other] = await tx
    .insert(players)
    .values({ ownerId: owner.id, name: parted.name })
    .returning({ id: players.id });
  await tx
    .update(playerNames)
    .set({ playerId: other!.id })
    .where(and(eq(playerNames.ownerId, owner.id), eq(playerNames.key, key)));
  for (const [column, text] of [
    ['firstPlayerId', games.firstPlayer],
    ['secondPlayerId', games.secondPlayer],
  ] as const) {
    // as they are spelt in games, however that may be
    const spellings = await tx
      .selectDistinct({ text })
      .from(games)
      .where(and(eq(games.ownerId, owner.id), eq(games[column], id)));
    const theirs = spellings.flatMap(({ text: spelt }) =>
      spelt !== null && nameKey(spelt) === key ? [spelt] : [],
    );
    if (theirs.length > 0)
      await tx
        .update(games)
        .set({ [column]: other!.id })
        .where(and(eq(games.ownerId, owner.id), eq(games[column], id), inArray(text, theirs)));
  }
  // the name by which a player is shown stays one of theirs
  const left = names.filter((known) => known.key !== key);
  await tx
    .update(players)
    .set({ name: left[0]!.name })
    .where(and(own(owner, id), eq(players.name, parted.name)));
  return true;
}

/** One of a player's games, seen from their side. */
export interface PlayedGame {
  id: number;
  kind: GameKind;
  side: Side;
  date: string | null;
  rating: number | null;
  timeClass: TimeClass | null;
  opponentId: number | null;
  opponent: string | null;
  outcome: keyof Score | null;
  /** As `openingText` writes it; null where it has no name. */
  opening: string | null;
  /** As the last complete sweep says; null where there is none, or it says nothing of the player's moves. */
  accuracy: number | null;
  /** Plies to which that sweep looked, on average. */
  depth: number | null;
}

const ACCURACY = SIDE_FIGURES.indexOf('accuracy');

/** As many games as a player's page is made of, the latest ones. */
export const MOST_PLAYED = 20_000;

/** A player's games, the latest first. */
export async function gamesOfPlayer(owner: OwnerRef, id: number): Promise<PlayedGame[]> {
  const rows = await database()
    .select({
      id: games.id,
      kind: games.kind,
      date: games.date,
      result: games.result,
      timeClass: games.timeClass,
      firstPlayerId: games.firstPlayerId,
      secondPlayerId: games.secondPlayerId,
      firstPlayer: games.firstPlayer,
      secondPlayer: games.secondPlayer,
      firstRating: games.firstRating,
      secondRating: games.secondRating,
      opening: games.opening,
      depth: games.depth,
      firstFigures: games.firstFigures,
      secondFigures: games.secondFigures,
    })
    .from(games)
    .where(and(playedGames(owner), or(eq(games.firstPlayerId, id), eq(games.secondPlayerId, id))))
    .orderBy(sql`coalesce(${games.date}, '') desc`, sql`${games.id} desc`)
    .limit(MOST_PLAYED);
  return rows.map((row) => {
    const side: Side = row.firstPlayerId === id ? 0 : 1;
    const isFirst = side === 0;
    return {
      id: row.id,
      kind: row.kind,
      side,
      date: row.date,
      rating: isFirst ? row.firstRating : row.secondRating,
      timeClass: row.timeClass,
      opponentId: isFirst ? row.secondPlayerId : row.firstPlayerId,
      opponent: isFirst ? row.secondPlayer : row.firstPlayer,
      outcome: outcomeFor(row.result, side),
      opening: row.opening || null,
      accuracy: (isFirst ? row.firstFigures : row.secondFigures)?.[ACCURACY] ?? null,
      depth: row.depth,
    };
  });
}

const FILLED_AT_ONCE = 500;

/** Gives games that were stored before there were players theirs, and their time class. */
export async function fillPlayers(): Promise<void> {
  for (let last = 0; ;) {
    const rows = await database()
      .select({
        id: games.id,
        ownerId: games.ownerId,
        firstPlayer: games.firstPlayer,
        secondPlayer: games.secondPlayer,
        timeControl: games.timeControl,
      })
      .from(games)
      .where(
        and(
          gt(games.id, last),
          or(
            and(isNull(games.firstPlayerId), isNotNull(games.firstPlayer)),
            and(isNull(games.secondPlayerId), isNotNull(games.secondPlayer)),
          ),
        ),
      )
      .orderBy(asc(games.id))
      .limit(FILLED_AT_ONCE);
    if (rows.length === 0) return;
    last = rows.at(-1)!.id;
    for (const id of new Set(rows.map(({ ownerId }) => ownerId)))
      await fillOf(
        { id },
        rows.filter(({ ownerId }) => ownerId === id),
      );
  }
}

interface Unfilled {
  id: number;
  firstPlayer: string | null;
  secondPlayer: string | null;
  timeControl: string | null;
}

const fillOf = (owner: OwnerRef, rows: readonly Unfilled[]): Promise<void> =>
  database().transaction(async (tx) => {
    for (const row of await withPlayers(tx, owner, rows)) {
      const { id, firstPlayerId, secondPlayerId } = row;
      const control = readTimeControl(row.timeControl ?? undefined);
      const timeClass = control && timeClassOf(control);
      await tx
        .update(games)
        .set({ firstPlayerId, secondPlayerId, timeClass })
        .where(eq(games.id, id));
    }
  });
