import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  check,
  customType,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  real,
  smallint,
  text,
  timestamp,
  uniqueIndex,
  uuid,
  type AnyPgColumn,
} from 'drizzle-orm/pg-core';
import { IMPORT_STATES } from '@/contract/imports';
import { GRANTED, type Granted } from '@/contract/rights';
import { ASK_STATES } from '@/contract/review';
import type { Tag } from '@/core/game/record';
import { RESULTS, type EndReason, type Result } from '@/core/game/result';
import { TIME_CLASSES, type TimeClass } from '@/core/game/time-class';
import { GAME_KINDS, type GameKind, type Side } from '@/core/game/ruleset';
import type { PackedNode } from '@/core/game/serial';
import type { StepJson } from '@/core/game/step-json';
import type { SweepFindings } from '@/core/review/findings';
import { TRENDS, type Trend } from '@/core/review/summary';
import type { EngineOption } from '@/core/notation/engine-options';
import type { Format } from '@/core/notation/formats';
import type { Problem } from '@/core/game/problem';

const bytes = customType<{ data: Buffer }>({ dataType: () => 'bytea' });
const oneOf = (values: readonly string[]) =>
  sql.raw(`(${values.map((value) => `'${value}'`).join(', ')})`);

const createdAt = () => timestamp('created_at', { withTimezone: true }).notNull().defaultNow();
const updatedAt = () => timestamp('updated_at', { withTimezone: true }).notNull().defaultNow();

/** Whoever games belong to: an account. */
export const owners = pgTable('owners', {
  id: uuid('id').primaryKey().defaultRandom(),
  /** As its bearer writes it; others find the account by it. */
  name: text('name').notNull(),
  /** The name, folded: no two accounts have one that differs from another's by case or width alone. */
  username: text('username').notNull().unique(),
  /** The library of accounts asks for one; it is made up, and nobody is written to. */
  email: text('email').notNull().unique(),
  emailVerified: boolean('email_verified').notNull().default(false),
  image: text('image'),
  /** When it was ended; what is in it goes bit by bit, and then the row itself. */
  closedAt: timestamp('closed_at', { withTimezone: true }),
  createdAt: createdAt(),
  updatedAt: updatedAt(),
});

const ownerId = () =>
  uuid('owner_id')
    .notNull()
    .references(() => owners.id, { onDelete: 'cascade' });

/** Who is signed in where, as the library of accounts keeps it. */
export const sessions = pgTable(
  'sessions',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    userId: ownerId(),
    token: text('token').notNull().unique(),
    expiresAt: timestamp('expires_at', { withTimezone: true }).notNull(),
    ipAddress: text('ip_address'),
    userAgent: text('user_agent'),
    createdAt: createdAt(),
    updatedAt: updatedAt(),
  },
  (table) => [index('sessions_owner').on(table.userId)],
);

/** How accounts are signed in to: a password's hash each, in the columns that the library of accounts asks for. */
export const credentials = pgTable(
  'credentials',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    userId: ownerId(),
    accountId: text('account_id').notNull(),
    providerId: text('provider_id').notNull(),
    password: text('password'),
    accessToken: text('access_token'),
    refreshToken: text('refresh_token'),
    idToken: text('id_token'),
    accessTokenExpiresAt: timestamp('access_token_expires_at', { withTimezone: true }),
    refreshTokenExpiresAt: timestamp('refresh_token_expires_at', { withTimezone: true }),
    scope: text('scope'),
    createdAt: createdAt(),
    updatedAt: updatedAt(),
  },
  (table) => [uniqueIndex('credentials_owner').on(table.userId, table.providerId)],
);

/** What the library of accounts would keep of letters that it sends; it sends none. */
export const verifications = pgTable('verifications', {
  id: uuid('id').primaryKey().defaultRandom(),
  identifier: text('identifier').notNull(),
  value: text('value').notNull(),
  expiresAt: timestamp('expires_at', { withTimezone: true }).notNull(),
  createdAt: createdAt(),
  updatedAt: updatedAt(),
});

/** What was tried how often lately, over all processes. */
export const attempts = pgTable('attempts', {
  key: text('key').primaryKey(),
  count: integer('count').notNull(),
  since: timestamp('since', { withTimezone: true }).notNull().defaultNow(),
});

/** Who plays in an owner's games. */
export const players = pgTable(
  'players',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    ownerId: ownerId(),
    /** By which they are shown. */
    name: text('name').notNull(),
    /** The owner themselves. */
    isSelf: boolean('is_self').notNull().default(false),
  },
  (table) => [
    index('players_owner').on(table.ownerId),
    uniqueIndex('players_self')
      .on(table.ownerId)
      .where(sql`is_self`),
  ],
);

/** The names under which players appear in games. */
export const playerNames = pgTable(
  'player_names',
  {
    ownerId: ownerId(),
    /** As {@link nameKey} writes it. */
    key: text('key').notNull(),
    /** As it was first met. */
    name: text('name').notNull(),
    playerId: bigint('player_id', { mode: 'number' })
      .notNull()
      .references(() => players.id, { onDelete: 'cascade' }),
  },
  (table) => [
    primaryKey({ columns: [table.ownerId, table.key] }),
    index('player_names_player').on(table.playerId),
  ],
);

const playerId = (name: string) =>
  bigint(name, { mode: 'number' }).references(() => players.id, { onDelete: 'set null' });

export const games = pgTable(
  'games',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    ownerId: ownerId(),
    kind: text('kind').$type<GameKind>().notNull(),
    /** Grows by one with each change of the record. */
    version: integer('version').notNull().default(1),
    start: text('start').notNull(),
    result: text('result').$type<Result>().notNull(),
    endReason: text('end_reason').$type<EndReason>(),
    /** Copies of tags, for lists and searches. */
    firstPlayer: text('first_player'),
    secondPlayer: text('second_player'),
    /** Who they are; null where there is no name. */
    firstPlayerId: playerId('first_player_id'),
    secondPlayerId: playerId('second_player_id'),
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
    timeClass: text('time_class').$type<TimeClass>(),
    handicap: text('handicap'),
    /** File, paste or hand. */
    source: text('source').notNull(),
    plies: integer('plies').notNull(),
    /** Equal for games that are the same: players, date, round, start and main line. */
    fingerprint: text('fingerprint').notNull(),
    /** The side that the owner played, where they said so; null: as the names tell. */
    ownSide: smallint('own_side').$type<Side>(),
    /** The side whose preparation it holds; null: a game. Never changes. */
    preparedFor: smallint('prepared_for').$type<Side>(),
    /** Players, event and date, folded for searches; null in a row older than it. */
    searchText: text('search_text'),
    /** All that people wrote in it, folded for searches; null where there is nothing. */
    words: text('words'),
    /** Whether there is anything besides the moves that were played: words, signs, marks, variations. */
    annotated: boolean('annotated').notNull().default(false),
    /** By which the owner finds it again. */
    labels: text('labels')
      .array()
      .notNull()
      .default(sql`'{}'`),
    /** What the last complete sweep says of it, of either side as {@link packFigures} writes it; null before there is one. */
    trend: text('trend').$type<Trend>(),
    /** How it was opened, as `openingText` writes it; empty where that has no name, null where nobody has looked yet. */
    opening: text('opening'),
    turningPoints: smallint('turning_points'),
    depth: real('depth'),
    firstFigures: real('first_figures').array().$type<(number | null)[]>(),
    secondFigures: real('second_figures').array().$type<(number | null)[]>(),
    /** When the owner last had its Desk before them. */
    openedAt: timestamp('opened_at', { withTimezone: true }),
    /** When it was deleted; it can be brought back for a month. */
    deletedAt: timestamp('deleted_at', { withTimezone: true }),
    /** The transaction that last wrote the row; kept by a trigger. */
    changed: bigint('changed', { mode: 'number' })
      .notNull()
      .default(sql`txid_current()`),
    createdAt: createdAt(),
    updatedAt: updatedAt(),
  },
  (table) => [
    uniqueIndex('games_owner_fingerprint').on(table.ownerId, table.fingerprint),
    index('games_owner_changed').on(table.ownerId, table.changed),
    index('games_owner_opening').on(table.ownerId, table.opening),
    index('games_owner_event').on(table.ownerId, table.event),
    index('games_prepared')
      .on(table.ownerId)
      .where(sql`prepared_for is not null`),
    index('games_first_player').on(table.firstPlayerId),
    index('games_second_player').on(table.secondPlayerId),
    index('games_written')
      .on(table.ownerId)
      .where(sql`words is not null`),
    index('games_words')
      .using('gin', sql`${table.words} gin_trgm_ops`)
      .where(sql`words is not null`),
    index('games_deleted')
      .on(table.deletedAt)
      .where(sql`deleted_at is not null`),
    check('games_kind', sql`kind in ${oneOf(GAME_KINDS)}`),
    check('games_result', sql`result in ${oneOf(RESULTS)}`),
    check('games_own_side', sql`own_side in (0, 1)`),
    check('games_prepared_for', sql`prepared_for in (0, 1)`),
    check('games_time_class', sql`time_class in ${oneOf(TIME_CLASSES)}`),
    check('games_trend', sql`trend in ${oneOf(TRENDS)}`),
  ],
);

/** What games consist of; beside them, so that lists read narrow rows. */
export const gameRecords = pgTable('game_records', {
  gameId: bigint('game_id', { mode: 'number' })
    .primaryKey()
    .references(() => games.id, { onDelete: 'cascade' }),
  nodes: jsonb('nodes').$type<PackedNode[]>().notNull(),
  tags: jsonb('tags').$type<Tag[]>().notNull(),
});

/** What is certain about the ends of games: endings of few men that chess games came to, and mates that were there in shogi games. */
export const reachedEndings = pgTable(
  'reached_endings',
  {
    gameId: bigint('game_id', { mode: 'number' })
      .notNull()
      .references(() => games.id, { onDelete: 'cascade' }),
    /** Of its first position. */
    ply: smallint('ply').notNull(),
    node: integer('node').notNull(),
    /** The pieces of side 0 and of side 1, as `KRP KR`; of a mate, its plies. */
    name: text('name').notNull(),
    /** FEN or SFEN. */
    position: text('position').notNull(),
    /** For side 0: 1 won, 0 drawn, -1 lost; null: nobody knows. */
    worth: smallint('worth'),
    /** On the board in the middle of an exchange alone. */
    isPassing: boolean('is_passing').notNull().default(false),
    /** Of a mate: a move after which it was there no more. */
    isLetGo: boolean('is_let_go').notNull().default(false),
  },
  (table) => [
    primaryKey({ columns: [table.gameId, table.ply] }),
    check('reached_endings_worth', sql`worth in (-1, 0, 1)`),
  ],
);

/** How far an owner's games have been looked through for {@link reachedEndings}. */
export const endingSurveys = pgTable('ending_surveys', {
  ownerId: ownerId().primaryKey(),
  /** Transactions below that were looked at. */
  seen: bigint('seen', { mode: 'number' }).notNull(),
  /** How many files of tables and proofs there were then. */
  files: integer('files').notNull(),
});

/** Filters of the library that an owner has given a name. */
export const savedFilters = pgTable(
  'saved_filters',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    ownerId: ownerId(),
    name: text('name').notNull(),
    /** As the address has it: what is filtered by, and in which order. */
    query: text('query').notNull(),
    createdAt: createdAt(),
  },
  (table) => [uniqueIndex('saved_filters_owner_name').on(table.ownerId, table.name)],
);

/** Games that an owner has put together under a name; a game may be in several. */
export const collections = pgTable(
  'collections',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    ownerId: ownerId(),
    name: text('name').notNull(),
    createdAt: createdAt(),
  },
  (table) => [uniqueIndex('collections_owner_name').on(table.ownerId, table.name)],
);

export const collectionGames = pgTable(
  'collection_games',
  {
    collectionId: bigint('collection_id', { mode: 'number' })
      .notNull()
      .references(() => collections.id, { onDelete: 'cascade' }),
    gameId: bigint('game_id', { mode: 'number' })
      .notNull()
      .references(() => games.id, { onDelete: 'cascade' }),
  },
  (table) => [
    primaryKey({ columns: [table.collectionId, table.gameId] }),
    index('collection_games_game').on(table.gameId),
  ],
);

/** What owners let others do with a game, a collection, a base or, where none is named, all their games. */
export const grants = pgTable(
  'grants',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    ownerId: ownerId(),
    gameId: bigint('game_id', { mode: 'number' }).references(() => games.id, {
      onDelete: 'cascade',
    }),
    collectionId: bigint('collection_id', { mode: 'number' }).references(() => collections.id, {
      onDelete: 'cascade',
    }),
    /** Of a base, which is no game of the library: of it alone. */
    baseId: bigint('base_id', { mode: 'number' }).references((): AnyPgColumn => bases.id, {
      onDelete: 'cascade',
    }),
    /** To whom: an account, or whoever has a link. */
    granteeId: uuid('grantee_id').references(() => owners.id, { onDelete: 'cascade' }),
    link: text('link').unique(),
    right: text('right').$type<Granted>().notNull(),
    /** Null: until it is withdrawn. */
    expiresAt: timestamp('expires_at', { withTimezone: true }),
    createdAt: createdAt(),
  },
  (table) => [
    index('grants_owner').on(table.ownerId),
    index('grants_grantee').on(table.granteeId),
    uniqueIndex('grants_one')
      .on(
        table.ownerId,
        table.granteeId,
        sql`coalesce(${table.gameId}, 0)`,
        sql`coalesce(${table.collectionId}, 0)`,
        sql`coalesce(${table.baseId}, 0)`,
      )
      .where(sql`grantee_id is not null`),
    check('grants_right', sql`"right" in ${oneOf(GRANTED)}`),
    check('grants_to', sql`(grantee_id is null) <> (link is null)`),
    check('grants_of', sql`num_nonnulls(game_id, collection_id, base_id) <= 1`),
    check('grants_base', sql`base_id is null or ("right" = 'read' and link is null)`),
    check('grants_link', sql`link is null or "right" = 'read'`),
    check('grants_other', sql`grantee_id <> owner_id`),
  ],
);

/** The keys of the positions of each game's main line, one behind the other; looked through for a key. */
export const gameKeys = pgTable(
  'game_keys',
  {
    gameId: bigint('game_id', { mode: 'number' })
      .primaryKey()
      .references(() => games.id, { onDelete: 'cascade' }),
    /** The game's: to find all of one owner's without the games. */
    ownerId: uuid('owner_id').notNull(),
    keys: bytes('keys').notNull(),
  },
  (table) => [index('game_keys_owner').on(table.ownerId)],
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
    step: jsonb('step').$type<StepJson>().notNull(),
    /** Who did it. */
    authorId: uuid('author_id').references(() => owners.id, { onDelete: 'set null' }),
    createdAt: createdAt(),
  },
  (table) => [primaryKey({ columns: [table.gameId, table.version] })],
);

export interface StoredLine {
  /** From the view of side 0: hundredths of a pawn, or plies to mate with the winner. */
  score: { kind: 'cp'; cp: number } | { kind: 'mate'; plies: number; winner: 0 | 1 };
  moves: string[];
}

export interface StoredAnswer {
  depth: number;
  nodes: number;
  milliseconds: number;
  lines: StoredLine[];
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
    /** The moves that there were to choose from, or empty where all were searched. */
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
    check('evaluations_kind', sql`kind in ${oneOf(GAME_KINDS)}`),
  ],
);

export const PLANS = ['sweep', 'study', 'proof', 'batch'] as const;
/** What is asked: to go over a game, to look at one position much deeper, to prove what one is worth, or to go over many games, each a sweep of its own. */
export type PlanName = (typeof PLANS)[number];
/** Those that are jobs; a batch is made of them. */
export type JobPlan = Exclude<PlanName, 'batch'>;

export type AskState = (typeof ASK_STATES)[number];

/** Which position of a game is looked at. */
export interface AskedPosition {
  /** The node of the game that the position is at, or that its line leaves from. */
  node: number;
  /** The moves from the start to the position, in UCI or USI. */
  moves: string[];
}

/** What people ask of engines about their games. */
export const asks = pgTable(
  'asks',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().generatedByDefaultAsIdentity(),
    ownerId: ownerId(),
    /** Null where it is about many games. */
    gameId: bigint('game_id', { mode: 'number' }).references(() => games.id, {
      onDelete: 'cascade',
    }),
    /** The ask of many games that this is part of. */
    parentId: bigint('parent_id', { mode: 'number' }).references((): AnyPgColumn => asks.id, {
      onDelete: 'cascade',
    }),
    plan: text('plan').$type<PlanName>().notNull(),
    /** As `settingsText` writes them. */
    settings: text('settings').notNull(),
    /** Name of an external engine; null: our own. */
    engine: text('engine'),
    /** The version of our engine that answers, once it has begun. */
    version: text('version'),
    /** Null: the whole game. */
    position: jsonb('position').$type<AskedPosition>(),
    state: text('state').$type<AskState>().notNull().default('queued'),
    /** Of a batch: what is higher goes first. */
    rank: bigint('rank', { mode: 'number' }).notNull().default(0),
    /** Positions finished, and to be looked at in all. */
    done: integer('done').notNull().default(0),
    total: integer('total').notNull(),
    /** What a search of one position has found so far. */
    answer: jsonb('answer').$type<StoredAnswer>(),
    /** What a sweep says of the game, and the version of the rules that reckoned it. */
    findings: jsonb('findings').$type<SweepFindings>(),
    rules: smallint('rules'),
    /** Of a sweep: it is set beside the one before it, with what has changed. */
    beside: boolean('beside').notNull().default(true),
    error: text('error'),
    /** How often it failed since it last got on. */
    failures: smallint('failures').notNull().default(0),
    createdAt: createdAt(),
    finishedAt: timestamp('finished_at', { withTimezone: true }),
  },
  (table) => [
    index('asks_game').on(table.gameId, table.plan, table.id.desc()),
    index('asks_open')
      .on(table.ownerId)
      .where(sql`state in ('queued', 'running')`),
    uniqueIndex('asks_open_sweep')
      .on(table.gameId)
      .where(sql`plan = 'sweep' and state in ('queued', 'running')`),
    index('asks_parent').on(table.parentId),
    index('asks_waiting')
      .on(table.parentId, table.id)
      .where(sql`state = 'queued'`),
    index('asks_batches')
      .on(table.id)
      .where(sql`plan = 'batch' and state = 'running'`),
    check('asks_plan', sql`plan in ${oneOf(PLANS)}`),
    check('asks_state', sql`state in ${oneOf(ASK_STATES)}`),
    check('asks_whole', sql`(plan in ('study', 'proof')) = (position is not null)`),
    check('asks_many', sql`(plan = 'batch') = (game_id is null)`),
  ],
);

/** What the worker found when it tried the external engines of the server's file. */
export const externalEngines = pgTable('external_engines', {
  name: text('name').primaryKey(),
  options: jsonb('options').$type<EngineOption[]>().notNull(),
  /** Why it can't be used; null: it can. */
  problem: text('problem'),
  checkedAt: timestamp('checked_at', { withTimezone: true }).notNull().defaultNow(),
});

export type ImportState = (typeof IMPORT_STATES)[number];

export const imports = pgTable(
  'imports',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    ownerId: ownerId(),
    name: text('name').notNull(),
    size: integer('size').notNull(),
    /** Keep games that are there already as further copies. */
    asCopies: boolean('as_copies').notNull().default(false),
    /** How games that go in are gone over, as `settingsText` writes it; null: not unless asked. */
    sweep: text('sweep'),
    /** What they are gone over in. */
    batchId: bigint('batch_id', { mode: 'number' }).references(() => asks.id, {
      onDelete: 'set null',
    }),
    state: text('state').$type<ImportState>().notNull().default('uploading'),
    /** How often reading failed since it last got on. */
    failures: smallint('failures').notNull().default(0),
    /** What becomes of the games that go in: a collection that they are put into, by what they are found, whose they are. */
    collectionId: bigint('collection_id', { mode: 'number' }).references(() => collections.id, {
      onDelete: 'set null',
    }),
    labels: text('labels').array().notNull().default([]),
    playerId: bigint('player_id', { mode: 'number' }).references(() => players.id, {
      onDelete: 'set null',
    }),
    /** The base that the games go into instead of the library. */
    baseId: bigint('base_id', { mode: 'number' }).references(() => bases.id, {
      onDelete: 'cascade',
    }),
    /** When reading began, and bytes of the file behind which all is stored. */
    startedAt: timestamp('started_at', { withTimezone: true }),
    readBytes: bigint('read_bytes', { mode: 'number' }).notNull().default(0),
    /** Games looked at, and what became of them. */
    read: integer('read').notNull().default(0),
    kept: integer('kept').notNull().default(0),
    duplicates: integer('duplicates').notNull().default(0),
    /** Those of the duplicates from which something was added to the game that was there. */
    merged: integer('merged').notNull().default(0),
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
  (table) => [
    index('imports_owner').on(table.ownerId, table.id.desc()),
    check('imports_state', sql`state in ${oneOf(IMPORT_STATES)}`),
  ],
);

/** Games of imports that could not be read, to be mended and taken in again; gone after a month. */
export const importFailures = pgTable(
  'import_failures',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    importId: bigint('import_id', { mode: 'number' })
      .notNull()
      .references(() => imports.id, { onDelete: 'cascade' }),
    problem: jsonb('problem').$type<Problem>().notNull(),
    /** The game as it stands in the file, and what it is written in; null where it is too long, or no game. */
    format: text('format').$type<Format>(),
    text: text('text'),
  },
  (table) => [index('import_failures_import').on(table.importId)],
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

export const BASE_SOURCES = ['files', 'collection', 'library'] as const;

/** Games of one kind that are asked together what was played at a position. */
export const bases = pgTable(
  'bases',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    ownerId: ownerId(),
    name: text('name').notNull(),
    kind: text('kind').$type<GameKind>().notNull(),
    /** Where its games come from: files taken in for it, a collection, or all games of the owner. */
    source: text('source').$type<(typeof BASE_SOURCES)[number]>().notNull(),
    collectionId: bigint('collection_id', { mode: 'number' }).references(() => collections.id, {
      onDelete: 'cascade',
    }),
    /** Numbers given to games so far, and of those the ones up to which positions can be asked for. */
    size: integer('size').notNull().default(0),
    indexed: integer('indexed').notNull().default(0),
    /** Games that have left it; their numbers stay. */
    gone: integer('gone').notNull().default(0),
    /** Grows with each change of what it answers. */
    version: integer('version').notNull().default(0),
    /** Of one that follows the library: transactions below that were looked at, and which games the collection held then. */
    seen: bigint('seen', { mode: 'number' }).notNull().default(0),
    seenMembers: text('seen_members'),
    createdAt: createdAt(),
  },
  (table) => [
    uniqueIndex('bases_owner_name').on(table.ownerId, table.name),
    check('bases_kind', sql`kind in ${oneOf(GAME_KINDS)}`),
    check('bases_source', sql`source in ${oneOf(BASE_SOURCES)}`),
    check('bases_collection', sql`(source = 'collection') = (collection_id is not null)`),
  ],
);

const baseId = () =>
  bigint('base_id', { mode: 'number' })
    .notNull()
    .references(() => bases.id, { onDelete: 'cascade' });

/** Who plays in the games of a base. */
export const basePlayers = pgTable(
  'base_players',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    baseId: baseId(),
    /** As {@link nameKey} writes it. */
    key: text('key').notNull(),
    /** As it was first met. */
    name: text('name').notNull(),
  },
  (table) => [uniqueIndex('base_players_key').on(table.baseId, table.key)],
);

/** The games of a base: what is asked of them, and their moves. */
export const baseGames = pgTable(
  'base_games',
  {
    baseId: baseId(),
    number: integer('number').notNull(),
    /** The game of the library that it is, as it was in one of its versions. */
    gameId: bigint('game_id', { mode: 'number' }),
    gameVersion: integer('game_version'),
    /** Equal for games that are the same; null once it has left. */
    fingerprint: text('fingerprint'),
    firstPlayerId: integer('first_player_id'),
    secondPlayerId: integer('second_player_id'),
    firstRating: smallint('first_rating'),
    secondRating: smallint('second_rating'),
    result: text('result').$type<Result>().notNull(),
    /** `YYYY`, `YYYY-MM` or `YYYY-MM-DD`. */
    date: text('date'),
    timeClass: text('time_class').$type<TimeClass>(),
    rated: boolean('rated'),
    event: text('event'),
    /** FEN or SFEN; null: the ordinary start. */
    start: text('start'),
    /** As `packMoves` writes them. */
    moves: bytes('moves').notNull(),
    /** What else is known of it. */
    tags: jsonb('tags').$type<Tag[]>().notNull(),
    /** Where its file states what the positions are worth: to what depth, in plies, and of either side as {@link packFigures} writes it. */
    depth: real('depth'),
    firstFigures: real('first_figures').array().$type<(number | null)[]>(),
    secondFigures: real('second_figures').array().$type<(number | null)[]>(),
  },
  (table) => [
    primaryKey({ columns: [table.baseId, table.number] }),
    index('base_games_stated')
      .on(table.baseId)
      .where(sql`first_figures is not null`),
    uniqueIndex('base_games_fingerprint').on(table.baseId, table.fingerprint),
    index('base_games_gone')
      .on(table.baseId)
      .where(sql`fingerprint is null`),
    index('base_games_game')
      .on(table.gameId)
      .where(sql`game_id is not null`),
  ],
);

/** Stretches of a base's games, each sorted by position. */
export const baseSegments = pgTable(
  'base_segments',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    baseId: baseId(),
    /** The first number, and the one behind the last. */
    fromNumber: integer('from_number').notNull(),
    toNumber: integer('to_number').notNull(),
    positions: integer('positions').notNull(),
    /** As `FactColumns.pack` writes them. */
    facts: bytes('facts').notNull(),
    /** The first key of each block, ascending, as `packFirsts` writes them; empty while blocks are being written. */
    firsts: bytes('firsts')
      .notNull()
      .default(sql`''`),
  },
  (table) => [uniqueIndex('base_segments_base').on(table.baseId, table.fromNumber)],
);

/** What was played at the positions of a segment; divided by the position's key among tables that may lie on other servers. */
export const baseBlocks = pgTable(
  'base_blocks',
  {
    segmentId: bigint('segment_id', { mode: 'number' })
      .notNull()
      .references(() => baseSegments.id, { onDelete: 'cascade' }),
    /** The first key, as {@link storedKey} writes it. */
    first: bigint('first', { mode: 'bigint' }).notNull(),
    bytes: bytes('bytes').notNull(),
  },
  (table) => [primaryKey({ columns: [table.segmentId, table.first] })],
);
