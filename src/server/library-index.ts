import { sql, type SQL } from 'drizzle-orm';
import { PgDialect } from 'drizzle-orm/pg-core';
import { CHOICE_NAMES, RANGES, readSpan, type GameFilter } from '@/contract/game-filter';
import type { Column, Order } from '@/contract/library';
import { folded } from '@/core/game/folded';
import { openingsWith } from '@/core/openings/all-openings';
import { pool } from './database';
import { factsFor } from './game-facts';
import type { Owner } from './owner';
import { games } from './schema';
import { NumberColumn, TextColumn } from './table-column';

/** Facts by which games are found and ordered that are numbers; dates of the clock are milliseconds. */
const NUMBERS = [...RANGES, 'added', 'lastOpened', 'deleted', 'first', 'second'] as const;
type NumberFact = (typeof NUMBERS)[number];
/** Those that are words, one of a few or any. */
const TEXTS = [
  ...([
    'kind',
    'date',
    'players',
    'event',
    'opening',
    'timeControl',
    'labels',
    'allLabels',
    'names',
  ] as const),
  ...CHOICE_NAMES,
] as const;
type TextFact = (typeof TEXTS)[number];

const isNumber = (column: Column): column is Column & NumberFact =>
  (NUMBERS as readonly string[]).includes(column);

/** Rows that are read at a time, so that others are served in between. */
const BATCH = 4000;
/** Games that all indexes of a process hold together: some 300 bytes each. */
const MOST_GAMES = 2 ** 21;
/** Behind all places that a column gives: with a place among so many games it is an integer that a number can hold. */
const LAST_PLACE = 2 ** 32 - 1;
/** Orders that are remembered until a game changes. */
const REMEMBERED = 8;

/**
 * An owner's library in memory: columns of what games are found and ordered by, from which any view is answered in milliseconds where
 * a scan of the rows takes a tenth of a second for each 100,000. The rows are the truth and their facts are PostgreSQL's ({@link factsFor});
 * each question first takes over what has changed since the one before.
 */
export class LibraryIndex {
  private readonly slots = new Map<number, number>();
  private readonly numbers = columnsOf(NUMBERS, () => new NumberColumn());
  private readonly texts = columnsOf(TEXTS, () => new TextColumn());
  private readonly ids: number[] = [];
  /** The database that was read, and its transactions before which all has been taken over. */
  private seen = { database: '', horizon: '0' };
  private latest: Int32Array | null = null;
  private readonly remembered = new Map<string, Int32Array>();
  private refreshing: Promise<void> = Promise.resolve();
  /** A refresh that has not begun yet: it sees all that was written before anybody who waits for it asked. */
  private queued: Promise<void> | null = null;

  constructor(private readonly owner: Owner) {}

  get size(): number {
    return this.ids.length;
  }

  /** Takes over what has changed. */
  refresh(): Promise<void> {
    if (this.queued) return this.queued;
    const next = this.refreshing.then(() => {
      this.queued = null;
      return this.takeOver();
    });
    this.refreshing = next.catch(() => {});
    return (this.queued = next);
  }

  private async takeOver(): Promise<void> {
    const values = [this.owner.id, this.seen.horizon];
    const { rows } = await pool().query<unknown[]>({ ...STATE, values, rowMode: 'array' });
    const [database, horizon, hasChanged] = rows[0] as [string, string, boolean];
    if (this.seen.database !== database) {
      // another database, or the same one put back to an earlier day: its transactions are counted anew
      this.clear();
      await this.read('0');
    } else if (hasChanged) await this.read(this.seen.horizon);
    this.seen = { database, horizon };
  }

  private clear(): void {
    this.slots.clear();
    this.ids.length = 0;
    this.latest = null;
    this.remembered.clear();
  }

  /** Reads the rows that were written by a transaction, or behind it. */
  private async read(from: string): Promise<void> {
    const client = await pool().connect();
    try {
      await client.query('begin isolation level repeatable read read only');
      const { text, values } = this.changedSince(from);
      await client.query(`declare changed no scroll cursor for ${text}`, values);
      for (;;) {
        const text = `fetch ${BATCH} from changed`;
        const { rows } = await client.query<unknown[]>({ text, rowMode: 'array' });
        for (const row of rows) this.take(row);
        if (rows.length < BATCH) break;
      }
      await client.query('commit');
    } catch (error) {
      await client.query('rollback').catch(() => {});
      throw error;
    } finally {
      client.release();
    }
    this.latest = null;
    this.remembered.clear();
  }

  private changedSince(from: string): { text: string; values: unknown[] } {
    const facts = factsFor(this.owner);
    const milliseconds = (time: SQL): SQL => sql`extract(epoch from ${time}) * 1000`;
    const own: Partial<Record<NumberFact | TextFact, SQL>> = {
      added: milliseconds(facts.added),
      lastOpened: milliseconds(facts.lastOpened),
      deleted: milliseconds(sql`${games.deletedAt}`),
      first: sql`${games.firstPlayerId}`,
      second: sql`${games.secondPlayerId}`,
      allLabels: sql`array_to_json(${games.labels})`,
      names: sql`${games.searchText}`,
    };
    const fact = (name: NumberFact | TextFact): SQL => own[name] ?? facts[name as Column];
    const wanted = [
      ...NUMBERS.map((name) => sql`(${fact(name)})::float8`),
      ...TEXTS.map((name) => sql`(${fact(name)})::text`),
    ];
    const { sql: text, params } = new PgDialect().sqlToQuery(
      sql`select ${games.id}::float8, ${sql.join(wanted, sql`, `)} from ${games}
        where ${games.ownerId} = ${this.owner.id} and ${games.changed} >= ${from}::bigint`,
    );
    return { text, values: params };
  }

  private take(row: readonly unknown[]): void {
    const id = row[0] as number;
    let slot = this.slots.get(id);
    if (slot === undefined) {
      slot = this.ids.length;
      this.slots.set(id, slot);
      this.ids.push(id);
    }
    let place = 1;
    for (const name of NUMBERS) this.numbers[name].set(slot, row[place++] as number | null);
    for (const name of TEXTS) this.texts[name].set(slot, row[place++] as string | null);
  }

  /** Slots of all games, the latest first. */
  private latestFirst(): Int32Array {
    if (this.latest) return this.latest;
    const { ids } = this;
    const ranks = this.texts.date.ranks();
    const all = Int32Array.from(ids, (_, slot) => slot);
    return (this.latest = all.sort((a, b) => ranks[b]! - ranks[a]! || ids[b]! - ids[a]!));
  }

  /**
   * Ids of the games that a filter holds, in an order: those that it does not tell apart the latest first, those of which it is not known last.
   * @param among of those alone, where there are conditions that memory does not hold
   */
  find(filter: GameFilter, order: Order, among: readonly Condition[] = []): Int32Array {
    const key = JSON.stringify([filter, order]);
    const known = among.length === 0 ? this.remembered.get(key) : undefined;
    if (known) return known;
    const holds = this.conditions(filter, among);
    const found = this.latestFirst().filter((slot) => holds.every((hold) => hold(slot)));
    this.sort(found, order);
    if (among.length > 0) return found;
    if (this.remembered.size >= REMEMBERED)
      this.remembered.delete(this.remembered.keys().next().value!);
    this.remembered.set(key, found);
    return found;
  }

  /** Whether a game's players, event or date hold a folded word. */
  naming(word: string): (slot: number) => boolean {
    return this.texts.names.test((names) => names.includes(word));
  }

  idAt(slot: number): number {
    return this.ids[slot]!;
  }

  textAt(name: TextFact, slot: number): string | null {
    return this.texts[name].at(slot);
  }

  /** NaN where it is not known. */
  numberAt(name: NumberFact, slot: number): number {
    return this.numbers[name].values[slot]!;
  }

  /** Sorts slots that come the latest first: by one number for each, made of its place by the column and its place among the latest. */
  private sort(slots: Int32Array, { by, way }: Order): void {
    if (by === 'date' && way === 'down') return;
    // the earliest first, of one day too
    if (by === 'date') slots.reverse();
    const places = isNumber(by) ? this.numbers[by].places() : this.texts[by].ranks();
    const keys = Float64Array.from(slots, (slot, index) => {
      const place = places[slot]!;
      const wanted = place < 0 ? LAST_PLACE : way === 'down' ? LAST_PLACE - 1 - place : place;
      return wanted * MOST_GAMES + index;
    }).sort();
    const before = slots.slice();
    keys.forEach((key, index) => (slots[index] = before[key % MOST_GAMES]!));
  }

  private conditions(
    filter: GameFilter,
    among: readonly Condition[],
  ): ((slot: number) => boolean)[] {
    const { numbers, texts, ids } = this;
    const deleted = numbers.deleted.values;
    const holds: ((slot: number) => boolean)[] = [];
    const text = (name: TextFact, fits: (value: string) => boolean): void => {
      holds.push(texts[name].test(fits));
    };
    const at = filter.deleted === undefined || filter.deleted === 'yes' ? null : filter.deleted;
    if (at !== null) {
      const time = Date.parse(at);
      holds.push((slot) => deleted[slot] === time);
    } else {
      const isWanted = filter.deleted === 'yes';
      holds.push((slot) => Number.isNaN(deleted[slot]!) !== isWanted);
    }
    const { kind, label } = filter;
    if (kind !== undefined) text('kind', (value) => value === kind);
    if (label !== undefined)
      text('allLabels', (value) => (JSON.parse(value) as string[]).includes(label));
    if (filter.opening !== undefined) {
      const wanted = new Set(openingsWith(filter.opening));
      text('opening', (opening) => wanted.has(opening));
    }
    const { first, second } = numbers;
    for (const either of [filter.player, filter.against])
      if (either !== undefined)
        holds.push((slot) => first.values[slot] === either || second.values[slot] === either);
    const { player, playing } = filter;
    if (player !== undefined && playing !== undefined)
      holds.push((slot) => numbers[playing].values[slot] === player);
    if (filter.date !== undefined) {
      const { from, to } = readSpan(filter.date);
      text(
        'date',
        (day) => (from === null || day >= from) && (to === null || day.slice(0, to.length) <= to),
      );
    }
    for (const name of CHOICE_NAMES) {
      const wanted = filter[name]?.split(',');
      if (wanted) text(name, (value) => wanted.includes(value));
    }
    for (const name of RANGES) {
      const span = filter[name];
      if (span === undefined) continue;
      const { from, to } = readSpan(span);
      const [least, most] = [
        Math.fround(Number(from ?? -Infinity)),
        Math.fround(Number(to ?? Infinity)),
      ];
      const { values } = numbers[name];
      holds.push(
        (slot) => Math.fround(values[slot]!) >= least && Math.fround(values[slot]!) <= most,
      );
    }
    for (const only of among) holds.push((slot) => only(ids[slot]!, slot));
    return holds;
  }
}

/** What of a game that memory does not hold is asked elsewhere, by its id and slot. */
export type Condition = (id: number, slot: number) => boolean;

const columnsOf = <Name extends string, C>(names: readonly Name[], make: () => C) =>
  Object.fromEntries(names.map((name) => [name, make()])) as Record<Name, C>;

/** Planned once by its name. */
const STATE = {
  name: 'state of a library',
  text: `select (select oid::text from pg_database where datname = current_database()) || ' ' || pg_postmaster_start_time(),
  txid_snapshot_xmin(txid_current_snapshot())::text,
  exists (select from games where owner_id = $1 and changed >= $2::bigint)`,
};

const indexes = new Map<string, LibraryIndex>();

/** An owner's index as the library is now; those that were not asked for longest give way to others. */
export async function libraryOf(owner: Owner): Promise<LibraryIndex> {
  const key = `${owner.id} ${owner.playerId}`;
  const index = indexes.get(key) ?? new LibraryIndex(owner);
  // the one asked for last stands last
  indexes.delete(key);
  indexes.set(key, index);
  await index.refresh();
  let size = [...indexes.values()].reduce((sum, one) => sum + one.size, 0);
  for (const [other, { size: freed }] of indexes) {
    if (size <= MOST_GAMES || other === key) break;
    indexes.delete(other);
    size -= freed;
  }
  return index;
}

/** The words of a search, folded. */
export const wordsOf = (text: string | undefined): string[] =>
  folded(text ?? '')
    .split(/\s+/)
    .filter(Boolean);
