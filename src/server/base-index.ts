import { and, asc, desc, eq, gte, lt, sql } from 'drizzle-orm';
import { FactColumns } from '@/core/base/facts';
import { mergeBlocks } from '@/core/base/merge-blocks';
import { MOVE_BYTES, unpackMoves } from '@/core/base/packed-moves';
import type { Block } from '@/core/base/block';
import { MOST_POSITIONS, Segment } from '@/core/base/segment';
import type { GameKind } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { lockBase } from './base-games';
import { database, type Transaction } from './database';
import { baseBlocks, baseGames, bases, baseSegments } from './schema';

/** As many games as a segment holds, so that it is made in memory. */
export const SEGMENT_GAMES = 65_536;
/** Games that are read at a time, and blocks that are written. */
const READ = 2000;
const WRITTEN = 250;

/** A position's key as it is stored: PostgreSQL's integers have a sign; the order stays. */
export const storedKey = (key: bigint): bigint => BigInt.asIntN(64, key ^ (1n << 63n));

/**
 * Makes the games of a base that have no segment yet ready to be asked for, a segment at a time, each in one transaction; small segments
 * are joined. What was begun and not finished is made again.
 */
export async function indexBase(id: number, onProgress: () => Promise<void>): Promise<void> {
  while (await indexNext(id)) await onProgress();
}

/** Makes the next segment; false once there is none to make. */
async function indexNext(id: number): Promise<boolean> {
  const [base] = await database().select().from(bases).where(eq(bases.id, id));
  if (!base || base.indexed >= base.size) return false;
  const { segment, facts, to } = await gather(id, base.kind, base.indexed, base.size);
  return database().transaction(async (tx) => {
    const held = await lockBase(tx, id);
    if (held?.indexed !== base.indexed) return held !== null;
    await storeSegment(tx, id, [base.indexed, to], segment.positions, facts, segment.blocks());
    await joinSmall(tx, id);
    await tx
      .update(bases)
      .set({ indexed: to, version: sql`version + 1` })
      .where(eq(bases.id, id));
    return true;
  });
}

/** The games from a number on, as many as a segment holds. */
async function gather(
  id: number,
  kind: GameKind,
  from: number,
  size: number,
): Promise<{ segment: Segment; facts: Uint8Array; to: number }> {
  const ruleset = rulesetOf(kind);
  const most = Math.min(size, from + SEGMENT_GAMES);
  const segment = new Segment(await positionsOf(id, from, most));
  const facts = new FactColumns(most - from);
  for (let next = from; next < most; next += READ) {
    const rows = await database()
      .select()
      .from(baseGames)
      .where(
        and(
          eq(baseGames.baseId, id),
          gte(baseGames.number, next),
          lt(baseGames.number, Math.min(most, next + READ)),
        ),
      )
      .orderBy(asc(baseGames.number));
    for (const row of rows) {
      const moves = unpackMoves(row.moves);
      if (segment.isFull(moves.length))
        return { segment, facts: facts.pack(row.number - from), to: row.number };
      segment.add(
        row.number,
        ruleset.keysAlong(ruleset.start(row.start ?? undefined), moves),
        moves,
      );
      facts.set(row.number - from, {
        result: row.result,
        ratings: [row.firstRating, row.secondRating],
        players: [row.firstPlayerId, row.secondPlayerId],
        year: row.date === null ? null : Number(row.date.slice(0, 4)),
        timeClass: row.timeClass,
        rated: row.rated,
        isSetUp: row.start !== null,
      });
    }
  }
  return { segment, facts: facts.pack(), to: most };
}

/** How many positions some games have together, or as many as there is room for. */
async function positionsOf(id: number, from: number, to: number): Promise<number> {
  const { rows } = await database().execute<{ positions: string }>(
    sql`select coalesce(sum(octet_length(moves) / ${MOVE_BYTES} + 1), 0) as positions from base_games
      where base_id = ${id} and number >= ${from} and number < ${to}`,
  );
  return Math.min(MOST_POSITIONS, Number(rows[0]!.positions));
}

async function storeSegment(
  tx: Transaction,
  baseId: number,
  [fromNumber, toNumber]: readonly [number, number],
  positions: number,
  facts: Uint8Array,
  blocks: Iterable<Block>,
): Promise<void> {
  const [made] = await tx
    .insert(baseSegments)
    .values({ baseId, fromNumber, toNumber, positions, facts: Buffer.from(facts) })
    .returning({ id: baseSegments.id });
  let part: (typeof baseBlocks.$inferInsert)[] = [];
  const write = async (): Promise<void> => {
    if (part.length > 0) await tx.insert(baseBlocks).values(part);
    part = [];
  };
  for (const { first, bytes } of blocks) {
    part.push({ segmentId: made!.id, first: storedKey(first), bytes: Buffer.from(bytes) });
    if (part.length >= WRITTEN) await write();
  }
  await write();
}

/** Joins the last two segments as long as the last is not much smaller, so that there are few however a base grows. */
async function joinSmall(tx: Transaction, baseId: number): Promise<void> {
  for (;;) {
    const [last, before] = await tx
      .select()
      .from(baseSegments)
      .where(eq(baseSegments.baseId, baseId))
      .orderBy(desc(baseSegments.fromNumber))
      .limit(2);
    if (!last || !before) return;
    const games = (one: typeof last): number => one.toNumber - one.fromNumber;
    if (
      2 * games(last) < games(before) ||
      last.toNumber - before.fromNumber > SEGMENT_GAMES ||
      last.positions + before.positions > MOST_POSITIONS
    )
      return;
    const blocks = mergeBlocks(await blocksOf(tx, before.id), await blocksOf(tx, last.id));
    await tx.delete(baseSegments).where(eq(baseSegments.id, before.id));
    await storeSegment(
      tx,
      baseId,
      [before.fromNumber, last.toNumber],
      last.positions + before.positions,
      Buffer.concat([before.facts, last.facts]),
      blocks,
    );
    await tx.delete(baseSegments).where(eq(baseSegments.id, last.id));
  }
}

async function blocksOf(tx: Transaction, segmentId: number): Promise<Buffer[]> {
  const rows = await tx
    .select({ bytes: baseBlocks.bytes })
    .from(baseBlocks)
    .where(eq(baseBlocks.segmentId, segmentId))
    .orderBy(asc(baseBlocks.first));
  return rows.map(({ bytes }) => bytes);
}
