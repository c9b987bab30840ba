import { and, asc, eq, sql } from 'drizzle-orm';
import { findInBlock, type Continuation } from '@/core/base/block';
import { FactColumns } from '@/core/base/facts';
import { joined } from '@/core/base/merge-blocks';
import { storedKey } from './base-index';
import { database, pool, type Transaction } from './database';
import { Recent } from './recent';
import { baseBlocks, baseGames, baseSegments } from './schema';

/** A stretch of a base's games, and where each of its blocks begins. */
interface LoadedSegment {
  id: number;
  firsts: BigInt64Array;
}

/** A base as it is asked: the facts of its games, and where what was played is found. */
export interface LoadedBase {
  id: number;
  version: number;
  facts: FactColumns;
  segments: readonly LoadedSegment[];
}

/** Games of all bases that one process keeps at hand, some 25 bytes each. */
const MOST_GAMES = 5_000_000;
/** Bytes of blocks that it keeps. */
const MOST_BLOCK_BYTES = 96 * 1024 * 1024;

/** One set a process: pages and routes each have modules of their own. */
const store = globalThis as {
  bektraBases?: Recent<number, Promise<LoadedBase>>;
  bektraBlocks?: Recent<string, Buffer>;
};
const loadedBases = (): Recent<number, Promise<LoadedBase>> =>
  (store.bektraBases ??= new Recent(MOST_GAMES));
const blocks = (): Recent<string, Buffer> => (store.bektraBlocks ??= new Recent(MOST_BLOCK_BYTES));

/** A base at a version or later; loaded once, whoever asks. */
export function loadBase(id: number, version: number, games: number): Promise<LoadedBase> {
  const known = loadedBases().get(id);
  const loading = (known ?? Promise.reject(new Error('not loaded'))).then(
    (base) => (base.version >= version ? base : readBase(id, base)),
    () => readBase(id, null),
  );
  loadedBases().set(id, loading, games);
  return loading;
}

async function readBase(id: number, before: LoadedBase | null): Promise<LoadedBase> {
  const db = database();
  return db.transaction(
    async (tx) => {
      const { rows } = await tx.execute<{ version: number; indexed: number }>(
        sql`select version, indexed from bases where id = ${id}`,
      );
      const [{ version, indexed } = { version: 0, indexed: 0 }] = rows;
      const facts = new FactColumns(indexed, before?.facts);
      const stored = await tx
        .select({ id: baseSegments.id, from: baseSegments.fromNumber })
        .from(baseSegments)
        .where(eq(baseSegments.baseId, id))
        .orderBy(asc(baseSegments.fromNumber));
      // what a segment holds never changes
      const known = new Map(before?.segments.map((segment) => [segment.id, segment]));
      const segments: LoadedSegment[] = [];
      for (const { id: segment, from } of stored) {
        const there = known.get(segment);
        if (!there) facts.unpack(from, await factsOf(tx, segment));
        segments.push(there ?? { id: segment, firsts: await firstsOf(tx, segment) });
      }
      const gone = await tx
        .select({ number: baseGames.number })
        .from(baseGames)
        .where(and(eq(baseGames.baseId, id), sql`fingerprint is null`));
      for (const { number } of gone) if (number < indexed) facts.gone[number] = 1;
      return { id, version, facts, segments };
    },
    { isolationLevel: 'repeatable read', accessMode: 'read only' },
  );
}

async function factsOf(tx: Transaction, segment: number): Promise<Uint8Array> {
  const [row] = await tx
    .select({ facts: baseSegments.facts })
    .from(baseSegments)
    .where(eq(baseSegments.id, segment));
  return row!.facts;
}

/** As one value: a row for each of some hundred thousand blocks takes seconds to read. */
async function firstsOf(tx: Transaction, segment: number): Promise<BigInt64Array> {
  const { rows } = await tx.execute<{ firsts: Buffer | null }>(
    sql`select string_agg(int8send(first), ''::bytea order by first) as firsts from ${baseBlocks} where segment_id = ${segment}`,
  );
  const bytes = new Uint8Array(rows[0]?.firsts ?? []);
  Buffer.from(bytes.buffer).swap64();
  return new BigInt64Array(bytes.buffer);
}

/** What was played at positions, by the games that the base had when it was loaded. */
export async function playedAt(
  base: LoadedBase,
  keys: readonly bigint[],
): Promise<Continuation[][]> {
  const places = keys.map((key) =>
    base.segments.flatMap(({ id, firsts }) => {
      const first = lastUpTo(firsts, storedKey(key));
      return first === null ? [] : [{ segment: id, first }];
    }),
  );
  const found = await readBlocks(places.flat());
  // segments were joined since: what they held is in others
  if (places.flat().some((place) => !found.has(nameOf(place)))) {
    const now = await loadBase(base.id, base.version + 1, base.facts.size);
    if (now.version > base.version) return (await playedAt(now, keys)).map(upTo(base.facts.size));
  }
  return keys.map((key, index) => {
    const parts = places[index]!.flatMap((place) => {
      const bytes = found.get(nameOf(place));
      const played = bytes ? findInBlock(bytes, key) : [];
      return played.length > 0 ? [played] : [];
    });
    return parts.length === 1 ? parts[0]! : joined(parts);
  });
}

/** Leaves out games that came in later. */
const upTo =
  (size: number) =>
  (played: readonly Continuation[]): Continuation[] =>
    played
      .map(({ move, games }) => ({ move, games: games.filter((game) => game < size) }))
      .filter(({ games }) => games.length > 0);

interface BlockPlace {
  segment: number;
  first: bigint;
}

const nameOf = ({ segment, first }: BlockPlace): string => `${segment} ${first}`;

/** Of ascending numbers, the last that is not above one; null where all are. */
function lastUpTo(numbers: BigInt64Array, most: bigint): bigint | null {
  let [low, high] = [0, numbers.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (numbers[middle]! <= most) low = middle + 1;
    else high = middle;
  }
  return low === 0 ? null : numbers[low - 1]!;
}

/** Planned once by its name; each block lies in one of the tables that its key tells. */
const BLOCKS = {
  name: 'blocks of bases',
  text: `select segment_id, first, bytes from unnest($1::bigint[], $2::bigint[]) as wanted (segment, place)
    cross join lateral (select segment_id, first, bytes from base_blocks where segment_id = wanted.segment and first = wanted.place) block`,
};

async function readBlocks(places: readonly BlockPlace[]): Promise<Map<string, Buffer>> {
  const found = new Map<string, Buffer>();
  const missing: BlockPlace[] = [];
  for (const place of places) {
    const bytes = blocks().get(nameOf(place));
    if (bytes) found.set(nameOf(place), bytes);
    else missing.push(place);
  }
  if (missing.length === 0) return found;
  const { rows } = await pool().query<{ segment_id: string; first: string; bytes: Buffer }>({
    ...BLOCKS,
    values: [missing.map(({ segment }) => segment), missing.map(({ first }) => first.toString())],
  });
  for (const { segment_id: segment, first, bytes } of rows) {
    const name = `${segment} ${first}`;
    found.set(name, bytes);
    blocks().set(name, bytes, bytes.length);
  }
  return found;
}
