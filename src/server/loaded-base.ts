import { and, asc, eq, sql } from 'drizzle-orm';
import { findInBlock, type Continuation } from '@/core/base/block';
import { FactColumns } from '@/core/base/facts';
import { joined } from '@/core/base/merge-blocks';
import { storedKey, unpackFirsts } from './base-index';
import { database, pool, type Transaction } from './database';
import { Recent } from './recent';
import { baseGames, baseSegments } from './schema';

/** A stretch of a base's games, and where each of its blocks begins. */
export interface LoadedSegment {
  id: number;
  from: number;
  /** Behind its last game. */
  to: number;
  /** How many of its games have left. */
  gone: number;
  firsts: BigInt64Array;
}

/** A base as it is asked: the facts of its games, and where what was played is found. */
export interface LoadedBase {
  id: number;
  version: number;
  /** The version by which its games had last changed, as far as this process saw: segments that are joined say the same. */
  contents: number;
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
      const rowsGone = await tx
        .select({ number: baseGames.number })
        .from(baseGames)
        .where(and(eq(baseGames.baseId, id), sql`fingerprint is null`));
      const gone = rowsGone.map(({ number }) => number).filter((number) => number < indexed);
      // what has left stays away
      const same =
        before?.facts.size === indexed && gone.every((number) => before.facts.gone[number] === 1)
          ? before
          : null;
      const facts = same?.facts ?? new FactColumns(indexed, before?.facts);
      for (const number of gone) facts.gone[number] = 1;
      const stored = await tx
        .select({ id: baseSegments.id, from: baseSegments.fromNumber, to: baseSegments.toNumber })
        .from(baseSegments)
        .where(eq(baseSegments.baseId, id))
        .orderBy(asc(baseSegments.fromNumber));
      // what a segment holds never changes
      const known = new Map(before?.segments.map((segment) => [segment.id, segment]));
      const segments: LoadedSegment[] = [];
      for (const { id: segment, from, to } of stored) {
        if (to > (before?.facts.size ?? 0)) facts.unpack(from, await factsOf(tx, segment));
        segments.push({
          id: segment,
          from,
          to,
          gone: gone.filter((number) => number >= from && number < to).length,
          firsts: known.get(segment)?.firsts ?? (await firstsOf(tx, segment)),
        });
      }
      return { id, version, contents: same?.contents ?? version, facts, segments };
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

async function firstsOf(tx: Transaction, segment: number): Promise<BigInt64Array> {
  const [row] = await tx
    .select({ firsts: baseSegments.firsts })
    .from(baseSegments)
    .where(eq(baseSegments.id, segment));
  return unpackFirsts(row!.firsts);
}

/** What was played at positions, by the games that the base had when it was loaded. */
export async function playedAt(
  base: LoadedBase,
  keys: readonly bigint[],
): Promise<Continuation[][]> {
  const found = await playedIn(base, keys, () => false);
  return found.played.map((places) => {
    const parts = places.map(({ read }) => read()).filter((played) => played.length > 0);
    const all = parts.length === 1 ? parts[0]! : joined(parts);
    return found.base === base ? all : upTo(base.facts.size)(all);
  });
}

/** A segment that may have a position, and what was played there. */
export interface PlayedIn {
  segment: LoadedSegment;
  /** Not to be called where it was said to be known. */
  read: () => Continuation[];
}

/**
 * The segments that may have each of some positions, with what was played there. They are of the base as it now is, where segments were
 * joined since it was loaded.
 * @param isKnown what was played need not be read
 */
export async function playedIn(
  base: LoadedBase,
  keys: readonly bigint[],
  isKnown: (segment: LoadedSegment, at: number) => boolean,
): Promise<{ base: LoadedBase; played: PlayedIn[][] }> {
  const places = keys.map((key) =>
    base.segments.flatMap((segment) => {
      const first = lastUpTo(segment.firsts, storedKey(key));
      return first === null ? [] : [{ segment, first }];
    }),
  );
  const wanted = places.flatMap((some, at) =>
    some
      .filter(({ segment }) => !isKnown(segment, at))
      .map(({ segment, first }) => ({ segment: segment.id, first })),
  );
  const found = await readBlocks(wanted);
  if (wanted.some((place) => !found.has(nameOf(place)))) {
    const now = await loadBase(base.id, base.version + 1, base.facts.size);
    if (now.version > base.version) return playedIn(now, keys, isKnown);
  }
  const played = places.map((some, at) =>
    some.map(({ segment, first }) => ({
      segment,
      read: () => {
        const bytes = found.get(nameOf({ segment: segment.id, first }));
        return bytes ? findInBlock(bytes, keys[at]!) : [];
      },
    })),
  );
  return { base, played };
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
