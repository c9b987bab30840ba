import { createHash } from 'node:crypto';
import { folded } from '@/core/game/folded';
import { timeClassOf } from '@/core/game/time-class';
import { gameInfo, type GameInfo } from '@/core/game/info';
import type { GameRecord } from '@/core/game/record';
import { toJson } from '@/core/game/serial';
import { mainLine, positionsAlong } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';
import type { games } from './schema';

/** A game as it is stored: plain data that can be made on a thread of its own. */
export interface PreparedGame {
  row: Omit<typeof games.$inferInsert, 'ownerId' | 'source'>;
  /** Keys of the main line's positions, the start first. */
  keys: string[];
}

/** A key of 64 bits as PostgreSQL's signed integers hold it. */
export const signed = (key: bigint): bigint => BigInt.asIntN(64, key);

/** Works out all that is stored of a game. */
export function prepareGame(record: GameRecord): PreparedGame {
  const info = gameInfo(record);
  const { nodes } = toJson(record);
  const [first, second] = info.players;
  return {
    row: {
      kind: record.tree.kind,
      nodes,
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
      searchText: searchTextOf(first.name, second.name, info.event, info.date),
    },
    keys: keysOf(record),
  };
}

/** What a search of games looks at. */
export const searchTextOf = (...parts: readonly (string | null)[]): string =>
  folded(parts.filter((part) => part !== null).join('\n'));

/** Equal for games that are the same to a person: players, date, round, start and main line. */
function fingerprintOf(record: GameRecord, info: GameInfo): string {
  const { code } = rulesetOf(record.tree.kind);
  const parts = [
    record.tree.kind,
    record.tree.start,
    mainLine(record.tree)
      .map(({ move }) => code(move))
      .join(' '),
    ...info.players.map(({ name }) => name?.toLowerCase() ?? ''),
    info.date ?? '',
    info.round ?? '',
  ];
  return createHash('sha256').update(parts.join('\n')).digest('base64url');
}

function keysOf({ tree }: GameRecord): string[] {
  const ruleset = rulesetOf(tree.kind);
  return positionsAlong(ruleset, tree.start, mainLine(tree)).map((position) =>
    signed(ruleset.key(position)).toString(),
  );
}
