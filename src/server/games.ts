import { randomUUID } from 'node:crypto';
import { and, asc, desc, eq, gt, inArray, isNull, like, sql, type SQL } from 'drizzle-orm';
import { folded } from '@/core/game/folded';
import { FIRST_VERSION, type GameRecord } from '@/core/game/record';
import type { Result } from '@/core/game/result';
import type { GameKind, Side } from '@/core/game/ruleset';
import { fromJson } from '@/core/game/serial';
import { LIMITS } from '@/core/game/problem';
import { applySteps, StepError, type Step } from '@/core/game/steps';
import { treeLimit } from '@/core/game/tree';
import { database, type Database, type Transaction } from './database';
import { announce } from './events';
import type { Owner } from './owner';
import { prepareGame, searchTextOf, type PreparedGame } from './prepared-game';
import { games, gameSteps, positions } from './schema';

type GameRow = typeof games.$inferSelect;

export interface StoredGame {
  id: number;
  version: number;
  source: string;
  /** The side that the owner said they played; null: as the names tell. */
  ownSide: Side | null;
  record: GameRecord;
}

export const recordOf = (row: GameRow): GameRecord =>
  fromJson(
    {
      kind: row.kind,
      start: row.start,
      nodes: row.nodes,
      tags: row.tags,
      result: row.result,
      end: row.endReason,
    },
    { legality: 'trusted' },
  );

export interface Insertion {
  id: number;
  /** The game was there already; `id` is that game's. */
  duplicate: boolean;
}

/**
 * Stores games, all or none, and tells for each whether it was there already.
 * @param asCopies keep games that are there already as further copies
 */
export async function insertGames(
  tx: Transaction,
  owner: Owner,
  prepared: readonly PreparedGame[],
  source: string,
  asCopies = false,
): Promise<Insertion[]> {
  const seen = asCopies
    ? new Map<string, number>()
    : await knownGames(
        tx,
        owner,
        prepared.map(({ row }) => row.fingerprint),
      );
  const insertions: Insertion[] = [];
  for (const { row, keys } of prepared) {
    const earlier = seen.get(row.fingerprint);
    if (earlier !== undefined) {
      insertions.push({ id: earlier, duplicate: true });
      continue;
    }
    const insertion = await insertGame(
      tx,
      { ...row, ownerId: owner.id, source, version: FIRST_VERSION },
      asCopies,
    );
    if (!insertion.duplicate) await indexPositions(tx, insertion.id, keys);
    if (!asCopies) seen.set(row.fingerprint, insertion.id);
    insertions.push(insertion);
  }
  return insertions;
}

/** The owner's games by their fingerprints. */
async function knownGames(
  tx: Transaction,
  owner: Owner,
  fingerprints: readonly string[],
): Promise<Map<string, number>> {
  const rows = await tx
    .select({ id: games.id, fingerprint: games.fingerprint })
    .from(games)
    .where(and(eq(games.ownerId, owner.id), inArray(games.fingerprint, [...fingerprints])));
  return new Map(rows.map(({ id, fingerprint }) => [fingerprint, id]));
}

/** Stores a row; where another was quicker with the same game, that one stays, or with `asCopies` this becomes a copy. */
async function insertGame(
  tx: Transaction,
  row: typeof games.$inferInsert,
  asCopies: boolean,
): Promise<Insertion> {
  const [inserted] = await tx
    .insert(games)
    .values(row)
    .onConflictDoNothing({ target: [games.ownerId, games.fingerprint] })
    .returning({ id: games.id });
  if (inserted) return { id: inserted.id, duplicate: false };
  if (asCopies)
    return insertGame(tx, { ...row, fingerprint: `${row.fingerprint}:${randomUUID()}` }, false);
  const [known] = await tx
    .select({ id: games.id })
    .from(games)
    .where(and(eq(games.ownerId, row.ownerId), eq(games.fingerprint, row.fingerprint)));
  return known ? { id: known.id, duplicate: true } : insertGame(tx, row, asCopies);
}

async function indexPositions(tx: Transaction, id: number, keys: readonly string[]): Promise<void> {
  await tx.delete(positions).where(eq(positions.gameId, id));
  await tx.execute(
    sql`insert into positions (game_id, ply, key) select ${id}, ordinality - 1, key from unnest(${sql.param(`{${keys.join(',')}}`)}::bigint[]) with ordinality as keys(key, ordinality)`,
  );
}

/** Stores one game entered by hand; `asCopy`: also where it is there already. */
export const createGame = (owner: Owner, record: GameRecord, asCopy = false): Promise<Insertion> =>
  database().transaction(async (tx) => {
    const [insertion] = await insertGames(
      tx,
      owner,
      [prepareGame(record)],
      'entered by hand',
      asCopy,
    );
    return insertion!;
  });

async function rowFor(
  db: Database | Transaction,
  owner: Owner,
  id: number,
): Promise<GameRow | null> {
  const [row] = await db
    .select()
    .from(games)
    .where(and(eq(games.ownerId, owner.id), eq(games.id, id)));
  return row ?? null;
}

/** The owner's game, or null. */
export async function findGame(owner: Owner, id: number): Promise<StoredGame | null> {
  const row = await rowFor(database(), owner, id);
  if (!row) return null;
  const { version, source, ownSide } = row;
  return { id, version, source, ownSide, record: recordOf(row) };
}

export interface GameFilter {
  kind?: GameKind;
  /** Part of a player's name, an event or a date. */
  text?: string;
}

export interface GameSummary {
  id: number;
  kind: GameKind;
  players: [string | null, string | null];
  ratings: [number | null, number | null];
  result: Result;
  date: string | null;
  event: string | null;
  round: string | null;
  plies: number;
  timeControl: string | null;
  handicap: string | null;
  /** The owner's side; null where neither they nor the names tell. */
  ownSide: Side | null;
}

const PAGE = 50;

/** A page of the owner's games, newest first, and how many there are in all. */
export async function listGames(
  owner: Owner,
  filter: GameFilter,
  page: number,
): Promise<{ games: GameSummary[]; total: number; pages: number }> {
  const conditions: (SQL | undefined)[] = [eq(games.ownerId, owner.id)];
  if (filter.kind) conditions.push(eq(games.kind, filter.kind));
  for (const word of folded(filter.text ?? '')
    .split(/\s+/)
    .filter(Boolean))
    conditions.push(like(games.searchText, `%${word.replace(/[\\%_]/g, '\\$&')}%`));
  const where = and(...conditions);
  const rows = await database()
    .select()
    .from(games)
    .where(where)
    .orderBy(sql`${games.date} desc nulls last`, desc(games.id))
    .limit(PAGE)
    .offset((page - 1) * PAGE);
  const total = await database().$count(games, where);
  return {
    games: rows.map((row) => summaryOf(owner, row)),
    total,
    pages: Math.max(1, Math.ceil(total / PAGE)),
  };
}

const summaryOf = (owner: Owner, row: GameRow): GameSummary => ({
  id: row.id,
  kind: row.kind,
  players: [row.firstPlayer, row.secondPlayer],
  ratings: [row.firstRating, row.secondRating],
  result: row.result,
  date: row.date,
  event: row.event,
  round: row.round,
  plies: row.plies,
  timeControl: row.timeControl,
  handicap: row.handicap,
  ownSide: ownSideOf(owner, [row.firstPlayer, row.secondPlayer], row.ownSide),
});

export type SaveOutcome =
  | { saved: true; version: number }
  | { saved: false; reason: 'missing' }
  /** Others have changed the game meanwhile, by `steps`. */
  | { saved: false; reason: 'stale'; version: number; steps: Step[] }
  | { saved: false; reason: 'unfit'; message: string };

/**
 * Applies steps made for a version of the game. A save that would overwrite somebody's later change is refused, with
 * what they did: rebaseSteps carries one's own over it.
 */
export async function saveSteps(
  owner: Owner,
  id: number,
  version: number,
  steps: readonly Step[],
): Promise<SaveOutcome> {
  const outcome = await database().transaction(async (tx): Promise<SaveOutcome> => {
    await tx.execute(
      sql`select 1 from games where id = ${id} and owner_id = ${owner.id} for update`,
    );
    const row = await rowFor(tx, owner, id);
    if (!row) return { saved: false, reason: 'missing' };
    if (row.version !== version) {
      const steps = await stepsSince(tx, row, version);
      return steps
        ? { saved: false, reason: 'stale', version: row.version, steps }
        : { saved: false, reason: 'unfit', message: `there is no version ${version}` };
    }
    try {
      return await store(tx, owner, row, recordOf(row), steps);
    } catch (error) {
      if (error instanceof StepError)
        return { saved: false, reason: 'unfit', message: error.message };
      throw error;
    }
  });
  if (outcome.saved) await announce({ owner: owner.id, type: 'game', id, gameId: id });
  return outcome;
}

async function store(
  tx: Transaction,
  owner: Owner,
  row: GameRow,
  before: GameRecord,
  steps: readonly Step[],
): Promise<SaveOutcome> {
  const record = applySteps(before, steps);
  const limit = treeLimit(record.tree) ?? (record.tags.length > LIMITS.tags ? 'tags' : null);
  if (limit)
    return { saved: false, reason: 'unfit', message: `${limit}: at most ${LIMITS[limit]}` };
  const version = row.version + steps.length;
  const { row: prepared, keys } = prepareGame(record);
  const { fingerprint: _, ...changed } = prepared;
  await tx
    .update(games)
    .set({ ...changed, version, updatedAt: new Date() })
    .where(and(eq(games.ownerId, owner.id), eq(games.id, row.id)));
  if (steps.length > 0)
    await tx
      .insert(gameSteps)
      .values(
        steps.map((step, index) => ({ gameId: row.id, version: row.version + index + 1, step })),
      );
  if (steps.some(({ type }) => type === 'insert' || type === 'remove' || type === 'place'))
    await indexPositions(tx, row.id, keys);
  return { saved: true, version };
}

/** The steps that led from a version to the present one; null where there was no such version. */
async function stepsSince(
  db: Database | Transaction,
  { id, version: present }: GameRow,
  version: number,
): Promise<Step[] | null> {
  const rows = await db
    .select({ step: gameSteps.step })
    .from(gameSteps)
    .where(and(eq(gameSteps.gameId, id), gt(gameSteps.version, version)))
    .orderBy(asc(gameSteps.version));
  return rows.length === present - version ? rows.map(({ step }) => step) : null;
}

/** What happened to the owner's game since a version of it; null where there is no such game. */
export async function changesSince(
  owner: Owner,
  id: number,
  version: number,
): Promise<{ version: number; steps: Step[] } | null> {
  return database().transaction(
    async (tx) => {
      const row = await rowFor(tx, owner, id);
      const steps = row && (await stepsSince(tx, row, version));
      return steps && { version: row.version, steps };
    },
    { isolationLevel: 'repeatable read' },
  );
}

/** Keeps which side the owner played; null: as the names tell. False where there is no such game. */
export async function setOwnSide(owner: Owner, id: number, side: Side | null): Promise<boolean> {
  const changed = await database()
    .update(games)
    .set({ ownSide: side })
    .where(and(eq(games.ownerId, owner.id), eq(games.id, id)))
    .returning({ id: games.id });
  return changed.length > 0;
}

/** Which side of a game is the owner's: as they said, else by the name; null where neither tells. */
export function ownSideOf(
  owner: Owner,
  names: readonly (string | null)[],
  said: Side | null,
): Side | null {
  const index = names.indexOf(owner.playerName);
  return said ?? (index < 0 ? null : (index as Side));
}

/** Deletes the owner's game with all that hangs on it; false where there is none. */
export async function deleteGame(owner: Owner, id: number): Promise<boolean> {
  const deleted = await database()
    .delete(games)
    .where(and(eq(games.ownerId, owner.id), eq(games.id, id)))
    .returning({ id: games.id });
  return deleted.length > 0;
}

/** Gives games that were stored before it what searches look at. */
export async function fillSearchText(): Promise<void> {
  const { id, firstPlayer, secondPlayer, event, date } = games;
  const rows = await database()
    .select({ id, firstPlayer, secondPlayer, event, date })
    .from(games)
    .where(isNull(games.searchText));
  for (const row of rows)
    await database()
      .update(games)
      .set({ searchText: searchTextOf(row.firstPlayer, row.secondPlayer, row.event, row.date) })
      .where(eq(games.id, row.id));
}

/** Whether any game was ever stored: who has deleted the demo games does not want them back. */
export async function everHadGames(): Promise<boolean> {
  const { rows } = await database().execute<{ is_called: boolean }>(
    sql`select is_called from games_id_seq`,
  );
  return rows[0]?.is_called === true;
}

export async function countGames(owner: Owner): Promise<number> {
  return database().$count(games, eq(games.ownerId, owner.id));
}
