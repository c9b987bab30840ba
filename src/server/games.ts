import { and, asc, eq, gt, ne, sql } from 'drizzle-orm';
import { allows, type Right } from '@/contract/rights';
import type { GameRecord } from '@/core/game/record';
import type { Side } from '@/core/game/ruleset';
import { fromJson, unpackNodes } from '@/core/game/serial';
import { LIMITS } from '@/core/game/problem';
import { isRemark } from '@/core/game/remark-step';
import { applyStep, applySteps, StepError, type Step } from '@/core/game/steps';
import { stepFromJson, stepToJson } from '@/core/game/step-json';
import { treeLimit, type NodeId } from '@/core/game/tree';
import { database, type Database, type Transaction } from './database';
import { announce } from './events';
import { copyOf, indexPositions, insertGames, type Insertion } from './insert-games';
import { selectGames, type GameRow, type RecordRow } from './game-rows';
import { presentGames } from './chosen-games';
import type { OwnerRef } from './owner';
import type { SideFacts } from './own-side';
import { beSelfAtFirst, lockPlayers, withPlayers } from './player-names';
import { prepareGame, rowOf } from './prepared-game';
import { gameRecords, games, gameSteps } from './schema';

export interface StoredGame {
  id: number;
  version: number;
  source: string;
  /** The side whose preparation it holds; null: a game. */
  preparedFor: Side | null;
  /** What tells which side is the owner's. */
  sides: SideFacts;
  record: GameRecord;
}

export const recordOf = (row: RecordRow): GameRecord =>
  fromJson(
    {
      kind: row.kind,
      start: row.start,
      nodes: unpackNodes(row.nodes),
      tags: row.tags,
      result: row.result,
      end: row.endReason,
    },
    { legality: 'trusted' },
  );

/** Stores one game entered by hand; `asCopy`: also where it is there already. */
export const createGame = (
  owner: OwnerRef,
  record: GameRecord,
  asCopy = false,
): Promise<Insertion> =>
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
  owner: OwnerRef,
  id: number,
): Promise<GameRow | null> {
  const [row] = await selectGames(db).where(and(presentGames(owner), eq(games.id, id)));
  return row ?? null;
}

export function storedGame(row: GameRow): StoredGame {
  const { id, version, source, preparedFor, ownSide, firstPlayerId, secondPlayerId } = row;
  const sides = { ownSide, firstPlayerId, secondPlayerId };
  return { id, version, source, preparedFor, sides, record: recordOf(row) };
}

/** The owner's game, or null. */
export async function findGame(owner: OwnerRef, id: number): Promise<StoredGame | null> {
  const row = await rowFor(database(), owner, id);
  return row && storedGame(row);
}

export type SaveOutcome =
  | { saved: true; version: number }
  | { saved: false; reason: 'missing' }
  /** More than who saves may do. */
  | { saved: false; reason: 'right' }
  /** Others have changed the game meanwhile, by `steps`. */
  | { saved: false; reason: 'stale'; version: number; steps: Step[] }
  | { saved: false; reason: 'unfit'; message: string };

/** Who changes a game, and what they may do with it. */
export interface Author {
  by: OwnerRef;
  right: Right;
}

/**
 * Applies steps made for a version of the game. A save that would overwrite somebody's later change is refused, with
 * what they did: rebaseSteps carries one's own over it.
 */
export async function saveSteps(
  owner: OwnerRef,
  id: number,
  version: number,
  steps: readonly Step[],
  { by, right }: Author = { by: owner, right: 'own' },
): Promise<SaveOutcome> {
  const outcome = await database().transaction(async (tx): Promise<SaveOutcome> => {
    if (mayRename(steps)) await lockPlayers(tx, owner);
    await lockRow(tx, owner, id);
    const row = await rowFor(tx, owner, id);
    if (!row) return { saved: false, reason: 'missing' };
    if (row.version !== version) {
      const steps = await stepsSince(tx, row, version);
      return steps
        ? { saved: false, reason: 'stale', version: row.version, steps }
        : { saved: false, reason: 'unfit', message: `there is no version ${version}` };
    }
    try {
      const record = recordOf(row);
      if (!allows(right, 'edit') && !(await areRemarks(tx, row, record, steps, by)))
        return { saved: false, reason: 'right' };
      return await store(tx, owner, row, record, steps, by);
    } catch (error) {
      if (error instanceof StepError)
        return { saved: false, reason: 'unfit', message: error.message };
      throw error;
    }
  });
  if (outcome.saved) await announce({ owner: owner.id, type: 'game', id, gameId: id });
  return outcome;
}

/**
 * Adds to a game what its record asks for; false where that is nothing, or does not fit. For a transaction that holds who the owner's
 * players are.
 */
export async function addToGame(
  tx: Transaction,
  owner: OwnerRef,
  id: number,
  stepsFor: (known: GameRecord) => readonly Step[],
): Promise<boolean> {
  await lockRow(tx, owner, id);
  const row = await rowFor(tx, owner, id);
  const known = row && recordOf(row);
  const steps = known ? stepsFor(known) : [];
  return steps.length > 0 && (await store(tx, owner, row!, known!, steps, owner)).saved;
}

const lockRow = (tx: Transaction, owner: OwnerRef, id: number) =>
  tx.execute(sql`select 1 from games where id = ${id} and owner_id = ${owner.id} for update`);

/** Whether somebody else may play in the game after some steps. */
const mayRename = (steps: readonly Step[]): boolean => steps.some(({ type }) => type === 'tag');

async function store(
  tx: Transaction,
  owner: OwnerRef,
  row: GameRow,
  before: GameRecord,
  steps: readonly Step[],
  by: OwnerRef,
): Promise<SaveOutcome> {
  const record = applySteps(before, steps);
  const limit = treeLimit(record.tree) ?? (record.tags.length > LIMITS.tags ? 'tags' : null);
  if (limit)
    return { saved: false, reason: 'unfit', message: `${limit}: at most ${LIMITS[limit]}` };
  const version = row.version + steps.length;
  const { nodes, tags, ...prepared } = rowOf(record);
  const fingerprint =
    row.preparedFor === null
      ? await freeFingerprint(tx, owner, row, prepared.fingerprint)
      : copyOf(prepared.fingerprint);
  const [named] = mayRename(steps) ? await withPlayers(tx, owner, [prepared]) : [prepared];
  await tx
    .update(games)
    .set({
      ...named!,
      fingerprint,
      version,
      updatedAt: new Date(),
    })
    .where(and(eq(games.ownerId, owner.id), eq(games.id, row.id)));
  await tx.update(gameRecords).set({ nodes, tags }).where(eq(gameRecords.gameId, row.id));
  if (steps.length > 0)
    await tx.insert(gameSteps).values(
      steps.map((step, index) => ({
        gameId: row.id,
        version: row.version + index + 1,
        authorId: by.id,
        step: stepToJson(row.kind, step),
      })),
    );
  if (steps.some(({ type }) => type === 'insert' || type === 'remove' || type === 'place'))
    await indexPositions(tx, row.id, record);
  return { saved: true, version };
}

/** Whether all that somebody does to a game only says something of it. */
async function areRemarks(
  tx: Transaction,
  { id, kind }: GameRow,
  record: GameRecord,
  steps: readonly Step[],
  by: OwnerRef,
): Promise<boolean> {
  const rows = await tx
    .select({ step: gameSteps.step })
    .from(gameSteps)
    .where(
      and(
        eq(gameSteps.gameId, id),
        eq(gameSteps.authorId, by.id),
        sql`${gameSteps.step}->>'type' = 'insert'`,
      ),
    );
  const own = new Set(rows.flatMap(({ step }) => insertedBy(stepFromJson(kind, step))));
  let now = record;
  for (const step of steps) {
    if (!isRemark(now.tree, step, (node) => own.has(node))) return false;
    insertedBy(step).forEach((node) => own.add(node));
    now = applyStep(now, step);
  }
  return true;
}

const insertedBy = (step: Step): NodeId[] =>
  step.type === 'insert' ? step.branch.map(({ id }) => id) : [];

/** The game's fingerprint as it is now; where another game has it, that of a copy. */
async function freeFingerprint(
  tx: Transaction,
  owner: OwnerRef,
  { id, fingerprint: present }: GameRow,
  wanted: string,
): Promise<string> {
  if (present.split(':')[0] === wanted) return present;
  const others = await tx.$count(
    games,
    and(eq(games.ownerId, owner.id), eq(games.fingerprint, wanted), ne(games.id, id)),
  );
  return others > 0 ? copyOf(wanted) : wanted;
}

/** The steps that led from a version to the present one; null where there was no such version. */
async function stepsSince(
  db: Database | Transaction,
  { id, kind, version: present }: GameRow,
  version: number,
): Promise<Step[] | null> {
  const rows = await db
    .select({ step: gameSteps.step })
    .from(gameSteps)
    .where(and(eq(gameSteps.gameId, id), gt(gameSteps.version, version)))
    .orderBy(asc(gameSteps.version));
  return rows.length === present - version
    ? rows.map(({ step }) => stepFromJson(kind, step))
    : null;
}

/** What happened to the owner's game since a version of it; null where there is no such game. */
export async function changesSince(
  owner: OwnerRef,
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

/**
 * Keeps which side the owner played; null: as the names tell. Who it is the first time is the owner in other games too. False where
 * there is no such game.
 */
export async function setOwnSide(owner: OwnerRef, id: number, side: Side | null): Promise<boolean> {
  return database().transaction(async (tx) => {
    await lockPlayers(tx, owner);
    const [changed] = await tx
      .update(games)
      .set({ ownSide: side })
      .where(and(presentGames(owner), eq(games.id, id)))
      .returning({ first: games.firstPlayerId, second: games.secondPlayerId });
    if (!changed) return false;
    const player = side === null ? null : side === 0 ? changed.first : changed.second;
    if (player !== null) await beSelfAtFirst(tx, owner, player);
    return true;
  });
}
