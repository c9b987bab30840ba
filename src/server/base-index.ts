import { and, asc, eq, gt, gte, inArray, lt, sql } from 'drizzle-orm';
import { FactColumns } from '@/core/base/facts';
import { countToJoin, SEGMENT_GAMES } from '@/core/base/ladder';
import { mergeBlocks } from '@/core/base/merge-blocks';
import { MOVE_BYTES, unpackMoves } from '@/core/base/packed-moves';
import type { Block } from '@/core/base/block';
import { MOST_POSITIONS, Segment } from '@/core/base/segment';
import type { GameKind } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { database, type Transaction } from './database';
import { baseBlocks, baseGames, bases, baseSegments } from './schema';

/** Games that are read at a time, and blocks that are read and written. */
const READ = 2000;
const BLOCKS = 250;

/** A position's key as it is stored: PostgreSQL's integers have a sign; the order stays. */
export const storedKey = (key: bigint): bigint => BigInt.asIntN(64, key ^ (1n << 63n));

/** Where the blocks of a segment begin, by {@link storedKey}: eight bytes each, the highest first. */
function packFirsts(firsts: readonly bigint[]): Buffer {
  const bytes = Buffer.from(BigInt64Array.from(firsts).buffer);
  return bytes.swap64();
}

/** What {@link packFirsts} wrote. */
export function unpackFirsts(bytes: Uint8Array): BigInt64Array {
  const own = new Uint8Array(bytes);
  Buffer.from(own.buffer).swap64();
  return new BigInt64Array(own.buffer);
}

/**
 * Makes the games of a base that have no segment yet ready to be asked for, a segment at a time, each in one transaction; then segments
 * are joined, in others. What was begun and not finished is made again. Games that come in meanwhile are left to the turn that they bring
 * about: a segment of each handful of them would soon have to be joined.
 * @param goesOn asked whenever a segment can be asked
 * @returns whether those that were there at the beginning are ready
 */
export async function indexBase(id: number, goesOn: () => Promise<boolean>): Promise<boolean> {
  const [base] = await database().select().from(bases).where(eq(bases.id, id));
  while (base && (await indexNext(id, base.size))) {
    const isOver = !(await goesOn());
    while (await joinLast(id));
    if (isOver) return false;
  }
  return true;
}

/** Makes the next segment of the first so many games; false once there is none to make. */
async function indexNext(id: number, size: number): Promise<boolean> {
  const [base] = await database().select().from(bases).where(eq(bases.id, id));
  if (!base) return false;
  // games may have left it meanwhile
  const most = Math.min(size, base.size);
  if (base.indexed >= most) return false;
  const { segment, facts, to } = await gather(id, base.kind, base.indexed, most);
  return database().transaction(async (tx) => {
    // kept from being deleted, while games go in
    const [there] = await tx.select().from(bases).where(eq(bases.id, id)).for('key share');
    if (there?.indexed !== base.indexed) return there !== undefined;
    await storeSegment(tx, id, [base.indexed, to], segment.positions, facts, segment.blocks());
    await tx
      .update(bases)
      .set({ indexed: to, version: sql`version + 1` })
      .where(eq(bases.id, id));
    return true;
  });
}

/** What is made ready of a game. */
const INDEXED = {
  number: baseGames.number,
  start: baseGames.start,
  moves: baseGames.moves,
  result: baseGames.result,
  firstRating: baseGames.firstRating,
  secondRating: baseGames.secondRating,
  firstPlayerId: baseGames.firstPlayerId,
  secondPlayerId: baseGames.secondPlayerId,
  date: baseGames.date,
  timeClass: baseGames.timeClass,
  rated: baseGames.rated,
};

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
      .select(INDEXED)
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
  blocks: Iterable<Block> | AsyncIterable<Block>,
): Promise<void> {
  const [made] = await tx
    .insert(baseSegments)
    .values({ baseId, fromNumber, toNumber, positions, facts: Buffer.from(facts) })
    .returning({ id: baseSegments.id });
  const firsts: bigint[] = [];
  let part: (typeof baseBlocks.$inferInsert)[] = [];
  const write = async (): Promise<void> => {
    if (part.length > 0) await tx.insert(baseBlocks).values(part);
    part = [];
  };
  for await (const { first, bytes } of blocks) {
    firsts.push(storedKey(first));
    part.push({ segmentId: made!.id, first: firsts.at(-1)!, bytes: Buffer.from(bytes) });
    if (part.length >= BLOCKS) await write();
  }
  await write();
  await tx
    .update(baseSegments)
    .set({ firsts: packFirsts(firsts) })
    .where(eq(baseSegments.id, made!.id));
}

/** Makes the last segments one where that is due, block by block; false where it is not. The base may be filled meanwhile. */
const joinLast = (baseId: number): Promise<boolean> =>
  database().transaction(async (tx) => {
    const all = await tx
      .select({
        id: baseSegments.id,
        fromNumber: baseSegments.fromNumber,
        toNumber: baseSegments.toNumber,
        positions: baseSegments.positions,
      })
      .from(baseSegments)
      .where(eq(baseSegments.baseId, baseId))
      .orderBy(asc(baseSegments.fromNumber));
    const count = countToJoin(all.map(({ fromNumber, toNumber }) => toNumber - fromNumber));
    const [first, ...others] = all.slice(all.length - count);
    if (count === 0 || !first) return false;
    const some = [first, ...others];
    const blocks = mergeBlocks(some.map(({ id }) => blocksOf(tx, id)));
    const positions = some.reduce((sum, one) => sum + one.positions, 0);
    const ids = some.map(({ id }) => id);
    const facts = await tx
      .select({ facts: baseSegments.facts })
      .from(baseSegments)
      .where(inArray(baseSegments.id, ids))
      .orderBy(asc(baseSegments.fromNumber));
    // the place of the first is taken by what comes of them, while their blocks are still being read
    await tx
      .update(baseSegments)
      .set({ fromNumber: -1 - first.fromNumber })
      .where(eq(baseSegments.id, first.id));
    await storeSegment(
      tx,
      baseId,
      [first.fromNumber, all.at(-1)!.toNumber],
      positions,
      Buffer.concat(facts.map((one) => one.facts)),
      blocks,
    );
    await tx.delete(baseSegments).where(inArray(baseSegments.id, ids));
    await tx
      .update(bases)
      .set({ version: sql`version + 1` })
      .where(eq(bases.id, baseId));
    return true;
  });

/** The blocks of a segment in the order of their positions. */
async function* blocksOf(tx: Transaction, segmentId: number): AsyncGenerator<Buffer> {
  for (let last: bigint | null = null; ;) {
    const rows: { first: bigint; bytes: Buffer }[] = await tx
      .select({ first: baseBlocks.first, bytes: baseBlocks.bytes })
      .from(baseBlocks)
      .where(
        and(
          eq(baseBlocks.segmentId, segmentId),
          last === null ? undefined : gt(baseBlocks.first, last),
        ),
      )
      .orderBy(asc(baseBlocks.first))
      .limit(BLOCKS);
    for (const { bytes } of rows) yield bytes;
    if (rows.length < BLOCKS) return;
    last = rows.at(-1)!.first;
  }
}
