import { hash } from 'node:crypto';
import { folded } from '@/core/game/folded';
import { timeClassOf } from '@/core/game/time-class';
import { gameInfo, type GameInfo } from '@/core/game/info';
import { looseNameKey } from '@/core/game/player-name';
import type { GameRecord } from '@/core/game/record';
import type { EndReason } from '@/core/game/result';
import { packNodes } from '@/core/game/serial';
import { mainLine } from '@/core/game/tree';
import { openingText } from '@/core/openings/opening';
import { rulesetOf } from '@/core/rulesets';
import type { RecordRow } from './game-rows';
import { games, type gameRecords } from './schema';

/** What is stored of a game itself. */
export type NewGame = Omit<typeof games.$inferInsert, 'ownerId' | 'source'> &
  Pick<typeof gameRecords.$inferInsert, 'nodes' | 'tags'>;

/** Columns of a game's row that are told of every game that comes in. */
const COLUMNS = [
  ...(['kind', 'start', 'result', 'endReason', 'firstPlayer'] as const),
  ...(['secondPlayer', 'firstRating', 'secondRating', 'firstCountry', 'secondCountry'] as const),
  ...(['event', 'round', 'date', 'time', 'rated', 'timeControl', 'timeClass', 'handicap'] as const),
  ...(['plies', 'fingerprint', 'searchText', 'words', 'annotated', 'opening'] as const),
] as const;

/** The same for SQL, by their names there; in the order of {@link PreparedGame.json}. */
export const COLUMNS_SQL = COLUMNS.map((column) => ({
  name: games[column].name,
  type: games[column].getSQLType(),
}));

/** A game as it is stored, ready to be sent to the database; can be made on a thread of its own. */
export interface PreparedGame {
  /** An object by the names of columns, with `nodes`, `tags` and `keys`: the keys of the main line's positions in base64. */
  json: string;
  fingerprint: string;
  players: readonly [string | null, string | null];
}

/** Works out all that is stored of a game. */
export function prepareGame(record: GameRecord): PreparedGame {
  const row = rowOf(record);
  const fields = COLUMNS.map((column) => [games[column].name, row[column]]);
  return {
    json: JSON.stringify({
      ...Object.fromEntries(fields),
      nodes: row.nodes,
      tags: row.tags,
      keys: keysOf(record).toString('base64'),
    }),
    fingerprint: row.fingerprint,
    players: [row.firstPlayer ?? null, row.secondPlayer ?? null],
  };
}

/** What a game's record is made of, as it will be stored. */
export function recordFacts({ json }: PreparedGame): RecordRow {
  const told = JSON.parse(json) as Omit<RecordRow, 'endReason'> & { end_reason: EndReason | null };
  return { ...told, endReason: told.end_reason };
}

/** What is stored of a game, but where its positions are found by. */
export function rowOf(record: GameRecord): NewGame {
  const info = gameInfo(record);
  const [first, second] = info.players;
  return {
    kind: record.tree.kind,
    nodes: packNodes(record.tree),
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
    timeClass: info.timeControl && timeClassOf(info.timeControl),
    handicap: info.handicap,
    plies: mainLine(record.tree).length,
    fingerprint: fingerprintOf(record, info),
    opening: openingOf(record),
    ...searchedOf(record, info),
  };
}

const foldedText = (parts: readonly (string | null | undefined)[]): string =>
  folded(parts.filter((part) => part !== null && part !== undefined).join('\n'));

/** What a search of games looks at, and whether anything was added to the moves. */
export function searchedOf(
  { tree }: GameRecord,
  { players, event, date }: GameInfo,
): { searchText: string; words: string | null; annotated: boolean } {
  const words: (string | undefined)[] = [];
  let isMarked = false;
  for (const { before, comment, lesson, symbols, marks, children } of tree.nodes.values()) {
    if (before ?? comment ?? lesson) words.push(before, comment, lesson);
    if (children.length > 1 || symbols || marks) isMarked = true;
  }
  const written = foldedText(words);
  return {
    searchText: foldedText([players[0].name, players[1].name, event, date]),
    words: written === '' ? null : written,
    annotated: isMarked || written !== '',
  };
}

/** How a game was opened, as it is stored; empty where that has no name. */
export function openingOf({ tree }: GameRecord): string {
  const ruleset = rulesetOf(tree.kind);
  const moves = mainLine(tree).map(({ move }) => move);
  const opening = ruleset.opening(ruleset.start(tree.start), moves);
  return opening ? openingText(opening) : '';
}

/** How fingerprints are made; those that were made otherwise begin otherwise. */
export const FINGERPRINTS = '2.';
/** From so many half moves on, the same players don't play the same game twice on a day. */
const LONG = 20;

/** Equal for games that are the same to a person: moves, players however their names are written, and date; of short ones the round too. */
export function fingerprintOf(record: GameRecord, info: GameInfo): string {
  const moves = mainLine(record.tree).map(({ move }) => move);
  const parts = [
    record.tree.kind,
    record.tree.start,
    ...info.players.map(({ name }) => looseNameKey(name ?? '')),
    info.date ?? '',
    moves.length < LONG ? (info.round ?? '') : '',
  ];
  const bytes = Buffer.concat([
    new Uint8Array(Int32Array.from(moves).buffer),
    Buffer.from(parts.join('\n')),
  ]);
  return FINGERPRINTS + hash('sha256', bytes, 'base64url');
}

/** Bytes of a position's key. */
export const KEY_BYTES = 8;

/** The keys of the main line's positions one behind the other, the start first. */
export function keysOf({ tree }: GameRecord): Buffer {
  const ruleset = rulesetOf(tree.kind);
  const moves = mainLine(tree).map(({ move }) => move);
  const keys = ruleset.keysAlong(ruleset.start(tree.start), moves);
  const bytes = new DataView(new ArrayBuffer(KEY_BYTES * keys.length));
  keys.forEach((key, ply) => bytes.setBigUint64(KEY_BYTES * ply, key));
  return Buffer.from(bytes.buffer);
}

/** A position's key as it is found among those of {@link keysOf}. */
export function keyBytes(key: bigint): Buffer {
  const bytes = Buffer.alloc(KEY_BYTES);
  bytes.writeBigUInt64BE(key);
  return bytes;
}
