import { sql, type SQL } from 'drizzle-orm';
import { PgDialect } from 'drizzle-orm/pg-core';
import { CHOICE_NAMES, RANGES, readSpan, type GameFilter } from '@/contract/game-filter';
import type { Column, Order } from '@/contract/library';
import { folded } from '@/core/game/folded';
import { openingsWith } from '@/core/openings/all-openings';
import { pool } from './database';
import { factsFor } from './game-facts';
import type { Reviewing } from './own-side';
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
/** An index takes as much as so many games besides, if only for one. */
const BESIDES = 80;
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
  /** What a filter holds is gathered here: for each view another array would have all memory of the process looked through every few views. */
  private held = new Int32Array(0);
  private readonly remembered = new Map<string, Int32Array>();
  private refreshing: Promise<void> = Promise.resolve();
  /** A refresh that has not begun yet: it sees all that was written before anybody who waits for it asked. */
  private queued: Promise<void> | null = null;

  constructor(private readonly owner: Reviewing) {}

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
      const fetch = async (): Promise<{ facts: string }[]> =>
        (await client.query<{ facts: string }>(`fetch ${BATCH} from changed`)).rows;
      for (let coming: Promise<{ facts: string }[]> | null = fetch(); coming;) {
        const rows: { facts: string }[] = await coming;
        // the database reads on while these are taken over
        coming = rows.length < BATCH ? null : fetch();
        for (const { facts } of rows) this.take(JSON.parse(facts) as (string | null)[]);
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

  /** @param from `'0'`: all that has ever changed; of those another player's side is looked from, theirs */
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
    const { playerId, isOther } = this.owner;
    const theirs =
      isOther && from === '0'
        ? sql`and ${playerId} in (${games.firstPlayerId}, ${games.secondPlayerId})`
        : sql``;
    const wanted = [...NUMBERS, ...TEXTS].map((name) => sql`(${fact(name)})::text`);
    // one field a row: each field of an answer costs as much again
    const { sql: text, params } = new PgDialect().sqlToQuery(
      sql`select array_to_json(array[${games.id}::text, ${sql.join(wanted, sql`, `)}])::text as facts from ${games}
        where ${games.ownerId} = ${this.owner.id} and ${games.preparedFor} is null and ${games.changed} >= ${from}::bigint ${theirs}`,
    );
    return { text, values: params };
  }

  private take(row: readonly (string | null)[]): void {
    const id = Number(row[0]);
    let slot = this.slots.get(id);
    if (slot === undefined) {
      slot = this.ids.length;
      this.slots.set(id, slot);
      this.ids.push(id);
    }
    let place = 1;
    for (const name of NUMBERS) {
      const number = row[place++]!;
      this.numbers[name].set(slot, number === null ? null : Number(number));
    }
    for (const name of TEXTS) this.texts[name].set(slot, row[place++]!);
  }

  /** Slots of all games, the latest first. */
  private latestFirst(): Int32Array {
    if (this.latest) return this.latest;
    const byId = Float64Array.from(this.ids).sort();
    const slots = new Int32Array(byId.length);
    for (let index = 0; index < byId.length; index++)
      slots[byId.length - 1 - index] = this.slots.get(byId[index]!)!;
    return (this.latest = ordered(slots, this.texts.date.ranks(), 'down'));
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
    const latest = this.latestFirst();
    if (this.held.length < latest.length) this.held = new Int32Array(latest.length);
    const { held } = this;
    let count = 0;
    // loops, because a function for each slot takes several times as long
    for (const slot of latest) if (holdsAll(holds, slot)) held[count++] = slot;
    const found = this.sorted(held.subarray(0, count), order);
    if (among.length > 0) return found;
    if (this.remembered.size >= REMEMBERED)
      this.remembered.delete(this.remembered.keys().next().value!);
    this.remembered.set(key, found);
    return found;
  }

  /** Whether a game's players, event or date hold folded words. */
  naming(...words: readonly string[]): (slot: number) => boolean {
    return this.texts.names.test((names) => words.every((word) => names.includes(word)));
  }

  idAt(slot: number): number {
    return this.ids[slot]!;
  }

  /** How many of some slots have each text. */
  countBy(name: TextFact, slots: Int32Array): Map<string | null, number> {
    return this.texts[name].countOf(slots);
  }

  /** NaN where it is not known. */
  numberAt(name: NumberFact, slot: number): number {
    return this.numbers[name].values[slot]!;
  }

  /** Slots that come the latest first in an order; those given are not kept as they are. */
  private sorted(slots: Int32Array, { by, way }: Order): Int32Array {
    if (by === 'date' && way === 'down') return slots.slice();
    // the earliest first, of one day too
    if (by === 'date') slots.reverse();
    return ordered(slots, isNumber(by) ? this.numbers[by].places() : this.texts[by].ranks(), way);
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

function holdsAll(holds: readonly ((slot: number) => boolean)[], slot: number): boolean {
  for (const hold of holds) if (!hold(slot)) return false;
  return true;
}

/** For each rank, where the next slot of it goes; kept for the next time, as {@link LibraryIndex} keeps what a filter holds. */
let nextOf = new Uint32Array(0);

/** Slots by their places in a column, those of one place as they come; those that have none are last either way. */
function ordered(slots: Int32Array, places: Float64Array, way: Order['way']): Int32Array {
  let most = -1;
  for (const slot of slots) most = Math.max(most, places[slot]!);
  const rankOf = (slot: number): number => {
    const place = places[slot]!;
    if (place < 0) return most + 1;
    return way === 'down' ? most - place : place;
  };
  const ranks = most + 3;
  if (nextOf.length < ranks) nextOf = new Uint32Array(ranks);
  const next = nextOf.fill(0, 0, ranks);
  for (const slot of slots) next[rankOf(slot) + 1]!++;
  for (let rank = 1; rank < ranks; rank++) next[rank]! += next[rank - 1]!;
  const found = new Int32Array(slots.length);
  for (const slot of slots) found[next[rankOf(slot)]!++] = slot;
  return found;
}

const columnsOf = <Name extends string, C>(names: readonly Name[], make: () => C) =>
  Object.fromEntries(names.map((name) => [name, make()])) as Record<Name, C>;

/** Planned once by its name, and so in a way that suits any transaction: by the end of an index. */
const STATE = {
  name: 'state of a library',
  text: `select (select oid::text from pg_database where datname = current_database()) || ' ' || pg_postmaster_start_time(),
  txid_snapshot_xmin(txid_current_snapshot())::text,
  coalesce((select max(changed) from games where owner_id = $1) >= $2::bigint, false)`,
};

/** One set a process: pages and routes each have modules of their own. */
const store = globalThis as { bektraLibraries?: Map<string, LibraryIndex> };

/** An owner's index as the library is now, from the side of whom they look at; those that were not asked for longest give way to others. */
export async function libraryOf(owner: Reviewing): Promise<LibraryIndex> {
  const indexes = (store.bektraLibraries ??= new Map<string, LibraryIndex>());
  const key = [owner.id, owner.playerId, owner.isOther].join(' ');
  const index = indexes.get(key) ?? new LibraryIndex(owner);
  // the one asked for last stands last
  indexes.delete(key);
  indexes.set(key, index);
  await index.refresh();
  let held = [...indexes.values()].reduce((sum, { size }) => sum + size + BESIDES, 0);
  for (const [other, { size }] of indexes) {
    if (held <= MOST_GAMES || other === key) break;
    indexes.delete(other);
    held -= size + BESIDES;
  }
  return index;
}

/** The words of a search, folded. */
export const wordsOf = (text: string | undefined): string[] =>
  folded(text ?? '')
    .split(/\s+/)
    .filter(Boolean);
