import { createHash } from 'node:crypto';
import { and, asc, desc, eq, gt, ilike, inArray, or, sql, type SQL } from 'drizzle-orm';
import { gameInfo, type GameInfo } from '@/core/game/info';
import type { GameRecord } from '@/core/game/record';
import type { GameKind } from '@/core/game/ruleset';
import { fromJson, toJson } from '@/core/game/serial';
import { applySteps, StepError, type Step } from '@/core/game/steps';
import { mainLine, positionsAlong } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';
import { database, type Database, type Transaction } from './database';
import { announce } from './events';
import type { Owner } from './owner';
import { games, gameSteps, positions } from './schema';

type GameRow = typeof games.$inferSelect;

export interface StoredGame {
  id: number;
  version: number;
  source: string;
  record: GameRecord;
}

export const signed = (key: bigint): bigint => BigInt.asIntN(64, key);

/** Equal for games that are the same to a person: players, date, round, start and main line. */
export function fingerprintOf(record: GameRecord, info: GameInfo): string {
  const { code } = rulesetOf(record.tree.kind);
  const parts = [
    record.tree.kind,
    record.tree.start,
    mainLine(record.tree)
      .map(({ move }) => code(move))
      .join(' '),
    ...info.players.map(({ name }) => name?.toLowerCase() ?? ''),
    info.date ?? '',
    info.round ?? '',
  ];
  return createHash('sha256').update(parts.join('\n')).digest('base64url');
}

function rowOf(owner: Owner, record: GameRecord, source: string): typeof games.$inferInsert {
  const info = gameInfo(record);
  const { nodes } = toJson(record);
  const [first, second] = info.players;
  return {
    ownerId: owner.id,
    kind: record.tree.kind,
    nodes,
    start: record.tree.start,
    tags: [...record.tags],
    result: record.result,
    endReason: record.end,
    firstPlayer: first.name,
    secondPlayer: second.name,
    firstRating: first.rating,
    secondRating: second.rating,
    firstCountry: first.country,
    secondCountry: second.country,
    event: info.event,
    round: info.round,
    date: info.date,
    time: info.time,
    rated: info.rated,
    timeControl: info.timeControlText,
    handicap: info.handicap,
    source,
    plies: mainLine(record.tree).length,
    fingerprint: fingerprintOf(record, info),
  };
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
  records: readonly GameRecord[],
  source: string,
  asCopies = false,
): Promise<Insertion[]> {
  const rows = records.map((record) => rowOf(owner, record, source));
  const seen = new Map<string, number>();
  const known = await tx
    .select({ id: games.id, fingerprint: games.fingerprint })
    .from(games)
    .where(
      and(
        eq(games.ownerId, owner.id),
        inArray(
          games.fingerprint,
          rows.map(({ fingerprint }) => fingerprint),
        ),
      ),
    );
  for (const { id, fingerprint } of known) seen.set(fingerprint, id);
  const insertions: Insertion[] = [];
  for (const [index, row] of rows.entries()) {
    const earlier = seen.get(row.fingerprint);
    if (earlier !== undefined && !asCopies) {
      insertions.push({ id: earlier, duplicate: true });
      continue;
    }
    const copy = earlier === undefined ? row : { ...row, fingerprint: copyName(row.fingerprint) };
    const [inserted] = await tx.insert(games).values(copy).returning({ id: games.id });
    seen.set(copy.fingerprint, inserted!.id);
    await indexPositions(tx, inserted!.id, records[index]!);
    insertions.push({ id: inserted!.id, duplicate: false });
  }
  return insertions;
}

const copyName = (fingerprint: string): string =>
  `${fingerprint}:${createHash('sha256').update(String(process.hrtime.bigint())).digest('base64url').slice(0, 8)}`;

async function indexPositions(tx: Transaction, id: number, { tree }: GameRecord): Promise<void> {
  const ruleset = rulesetOf(tree.kind);
  const keys = positionsAlong(ruleset, tree.start, mainLine(tree)).map((position) =>
    signed(ruleset.key(position)).toString(),
  );
  await tx.delete(positions).where(eq(positions.gameId, id));
  await tx.execute(
    sql`insert into positions (game_id, ply, key) select ${id}, ordinality - 1, key from unnest(${sql.param(`{${keys.join(',')}}`)}::bigint[]) with ordinality as keys(key, ordinality)`,
  );
}

/** Stores one game entered by hand. */
export const createGame = (owner: Owner, record: GameRecord): Promise<Insertion> =>
  database().transaction(async (tx) => {
    const [insertion] = await insertGames(tx, owner, [record], 'entered by hand');
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
  return row && { id: row.id, version: row.version, source: row.source, record: recordOf(row) };
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
  result: string;
  date: string | null;
  event: string | null;
  round: string | null;
  plies: number;
  timeControl: string | null;
  handicap: string | null;
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
  for (const word of filter.text?.split(/\s+/).filter(Boolean) ?? []) {
    const pattern = `%${word.replace(/[\\%_]/g, '\\$&')}%`;
    conditions.push(
      or(
        ilike(games.firstPlayer, pattern),
        ilike(games.secondPlayer, pattern),
        ilike(games.event, pattern),
        ilike(games.date, pattern),
      ),
    );
  }
  const where = and(...conditions);
  const rows = await database()
    .select()
    .from(games)
    .where(where)
    .orderBy(sql`${games.date} desc nulls last`, desc(games.id))
    .limit(PAGE)
    .offset((page - 1) * PAGE);
  const total = await database().$count(games, where);
  return { games: rows.map(summaryOf), total, pages: Math.max(1, Math.ceil(total / PAGE)) };
}

const summaryOf = (row: GameRow): GameSummary => ({
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
    if (row.version !== version)
      return {
        saved: false,
        reason: 'stale',
        version: row.version,
        steps: await stepsSince(tx, id, version),
      };
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
  const version = row.version + steps.length;
  const { fingerprint: _, ...changed } = rowOf(owner, record, row.source);
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
    await indexPositions(tx, row.id, record);
  return { saved: true, version };
}

async function stepsSince(db: Database | Transaction, id: number, version: number) {
  const rows = await db
    .select({ step: gameSteps.step })
    .from(gameSteps)
    .where(and(eq(gameSteps.gameId, id), gt(gameSteps.version, version)))
    .orderBy(asc(gameSteps.version));
  return rows.map(({ step }) => step);
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
      return row && { version: row.version, steps: await stepsSince(tx, id, version) };
    },
    { isolationLevel: 'repeatable read' },
  );
}

/** Deletes the owner's game with all that hangs on it; false where there is none. */
export async function deleteGame(owner: Owner, id: number): Promise<boolean> {
  const deleted = await database()
    .delete(games)
    .where(and(eq(games.ownerId, owner.id), eq(games.id, id)))
    .returning({ id: games.id });
  return deleted.length > 0;
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
