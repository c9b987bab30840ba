import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  customType,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  smallint,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import type { Tag } from '@/core/game/record';
import type { EndReason, Result } from '@/core/game/result';
import type { GameKind, Side } from '@/core/game/ruleset';
import type { RecordJson } from '@/core/game/serial';
import type { Step } from '@/core/game/steps';
import type { EngineOption } from '@/core/notation/engine-options';
import type { Problem } from '@/core/game/problem';

const bytes = customType<{ data: Buffer }>({ dataType: () => 'bytea' });
const createdAt = () => timestamp('created_at', { withTimezone: true }).notNull().defaultNow();

/** Whoever games belong to. */
export const owners = pgTable('owners', {
  id: uuid('id').primaryKey().defaultRandom(),
  /** Name by which the owner's own games are known; sides with it are "own". */
  playerName: text('player_name').notNull(),
  createdAt: createdAt(),
});

const ownerId = () =>
  uuid('owner_id')
    .notNull()
    .references(() => owners.id, { onDelete: 'cascade' });

export const games = pgTable(
  'games',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    ownerId: ownerId(),
    kind: text('kind').$type<GameKind>().notNull(),
    /** Grows by one with each change of the record. */
    version: integer('version').notNull().default(1),
    nodes: jsonb('nodes').$type<RecordJson['nodes']>().notNull(),
    start: text('start').notNull(),
    tags: jsonb('tags').$type<Tag[]>().notNull(),
    result: text('result').$type<Result>().notNull(),
    endReason: text('end_reason').$type<EndReason>(),
    /** Copies of tags, for lists and searches. */
    firstPlayer: text('first_player'),
    secondPlayer: text('second_player'),
    firstRating: smallint('first_rating'),
    secondRating: smallint('second_rating'),
    firstCountry: text('first_country'),
    secondCountry: text('second_country'),
    event: text('event'),
    round: text('round'),
    /** `YYYY`, `YYYY-MM` or `YYYY-MM-DD`. */
    date: text('date'),
    /** Local time of the start with its zone where known. */
    time: text('time'),
    rated: boolean('rated'),
    timeControl: text('time_control'),
    handicap: text('handicap'),
    /** File, paste or hand. */
    source: text('source').notNull(),
    plies: integer('plies').notNull(),
    /** Equal for games that are the same: players, date, round, start and main line. */
    fingerprint: text('fingerprint').notNull(),
    /** The side that the owner played, where they said so; null: as the names tell. */
    ownSide: smallint('own_side').$type<Side>(),
    /** Players, event and date, folded for searches; null in a row older than it. */
    searchText: text('search_text'),
    createdAt: createdAt(),
    updatedAt: timestamp('updated_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [
    uniqueIndex('games_owner_fingerprint').on(table.ownerId, table.fingerprint),
    index('games_owner_date').on(table.ownerId, table.date.desc().nullsLast(), table.id.desc()),
  ],
);

/** The positions of each main line, to be found by key. */
export const positions = pgTable(
  'positions',
  {
    gameId: bigint('game_id', { mode: 'number' })
      .notNull()
      .references(() => games.id, { onDelete: 'cascade' }),
    ply: smallint('ply').notNull(),
    key: bigint('key', { mode: 'bigint' }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.gameId, table.ply] }),
    index('positions_key').on(table.key),
  ],
);

/** Every change of a game, so that a stale edit can be carried over to the present. */
export const gameSteps = pgTable(
  'game_steps',
  {
    gameId: bigint('game_id', { mode: 'number' })
      .notNull()
      .references(() => games.id, { onDelete: 'cascade' }),
    /** The version that the step led to. */
    version: integer('version').notNull(),
    step: jsonb('step').$type<Step>().notNull(),
    createdAt: createdAt(),
  },
  (table) => [primaryKey({ columns: [table.gameId, table.version] })],
);

export interface StoredLine {
  /** From the view of side 0: hundredths of a pawn, or plies to mate with the winner. */
  score: { kind: 'cp'; cp: number } | { kind: 'mate'; plies: number; winner: 0 | 1 };
  moves: string[];
}

/** What engines have found, whoever asked: a function of position, engine and settings. */
export const evaluations = pgTable(
  'evaluations',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    kind: text('kind').$type<GameKind>().notNull(),
    key: bigint('key', { mode: 'bigint' }).notNull(),
    /** What else of the game the value can depend on; empty as a rule. */
    history: text('history').notNull(),
    engine: text('engine').notNull(),
    settings: text('settings').notNull(),
    /** The move that was priced, or empty where all moves were searched. */
    onlyMove: text('only_move').notNull(),
    depth: smallint('depth').notNull(),
    nodes: bigint('nodes', { mode: 'number' }).notNull(),
    milliseconds: integer('milliseconds').notNull(),
    lines: jsonb('lines').$type<StoredLine[]>().notNull(),
    createdAt: createdAt(),
  },
  (table) => [
    uniqueIndex('evaluations_fact').on(
      table.key,
      table.kind,
      table.history,
      table.engine,
      table.settings,
      table.onlyMove,
    ),
  ],
);

/** What is asked of an engine about a game. */
const ofGame = () => ({
  id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
  ownerId: ownerId(),
  gameId: bigint('game_id', { mode: 'number' })
    .notNull()
    .references(() => games.id, { onDelete: 'cascade' }),
  /** As `settingsText` writes them. */
  settings: text('settings').notNull(),
  error: text('error'),
  /** How often it failed since it last got on. */
  failures: smallint('failures').notNull().default(0),
  createdAt: createdAt(),
  finishedAt: timestamp('finished_at', { withTimezone: true }),
});

export type SweepState = 'queued' | 'running' | 'done' | 'cancelled' | 'failed';

export const sweeps = pgTable(
  'sweeps',
  {
    ...ofGame(),
    /** The engine's version, once it has begun. */
    engine: text('engine'),
    state: text('state').$type<SweepState>().notNull().default('queued'),
    /** Positions finished, and to be looked at in all. */
    done: integer('done').notNull().default(0),
    total: integer('total').notNull(),
  },
  (table) => [
    index('sweeps_game').on(table.gameId, table.id.desc()),
    uniqueIndex('sweeps_open')
      .on(table.gameId)
      .where(sql`state in ('queued', 'running')`),
  ],
);

export type StudyState = 'queued' | 'running' | 'done' | 'failed';

/** Searches of single positions that people asked for: much deeper ones, and those of external engines. */
export const studies = pgTable(
  'studies',
  {
    ...ofGame(),
    /** The node of the game that the position is at, or that its line leaves from. */
    node: bigint('node', { mode: 'number' }).notNull(),
    /** The moves from the start to the position, in UCI or USI. */
    moves: text('moves').array().notNull(),
    /** Name of an external engine; null: our own. */
    engine: text('engine'),
    state: text('state').$type<StudyState>().notNull().default('queued'),
    depth: smallint('depth').notNull().default(0),
    nodes: bigint('nodes', { mode: 'number' }).notNull().default(0),
    milliseconds: integer('milliseconds').notNull().default(0),
    lines: jsonb('lines').$type<StoredLine[]>().notNull().default([]),
  },
  (table) => [index('studies_game').on(table.gameId, table.id.desc())],
);

/** What the worker found when it tried the external engines of the server's file. */
export const externalEngines = pgTable('external_engines', {
  name: text('name').primaryKey(),
  options: jsonb('options').$type<EngineOption[]>().notNull(),
  /** Why it can't be used; null: it can. */
  problem: text('problem'),
  checkedAt: timestamp('checked_at', { withTimezone: true }).notNull().defaultNow(),
});

export type ImportState = 'uploading' | 'queued' | 'running' | 'done' | 'cancelled' | 'failed';

export const imports = pgTable(
  'imports',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    ownerId: ownerId(),
    name: text('name').notNull(),
    size: integer('size').notNull(),
    /** Keep games that are there already as further copies. */
    asCopies: boolean('as_copies').notNull().default(false),
    state: text('state').$type<ImportState>().notNull().default('uploading'),
    /** How often reading failed since it last got on. */
    failures: smallint('failures').notNull().default(0),
    /** Games looked at, and what became of them. */
    read: integer('read').notNull().default(0),
    kept: integer('kept').notNull().default(0),
    duplicates: integer('duplicates').notNull().default(0),
    failed: integer('failed').notNull().default(0),
    /** The first problems, with their places. */
    problems: jsonb('problems').$type<Problem[]>().notNull().default([]),
    /** What readers decided about games that went in, with their places. */
    notes: jsonb('notes').$type<Problem[]>().notNull().default([]),
    /** The first games that went in or were there already. */
    gameIds: jsonb('game_ids').$type<number[]>().notNull().default([]),
    createdAt: createdAt(),
    finishedAt: timestamp('finished_at', { withTimezone: true }),
  },
  (table) => [index('imports_owner').on(table.ownerId, table.id.desc())],
);

/** The file of an import, piece by piece as it came; gone once it has been read. */
export const importPieces = pgTable(
  'import_pieces',
  {
    importId: bigint('import_id', { mode: 'number' })
      .notNull()
      .references(() => imports.id, { onDelete: 'cascade' }),
    /** Place among the pieces, from 0. */
    place: integer('place').notNull(),
    bytes: bytes('bytes').notNull(),
  },
  (table) => [primaryKey({ columns: [table.importId, table.place] })],
);
