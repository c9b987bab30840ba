import type { GameFilter } from '@/contract/game-filter';
import type { GameRecord } from '@/core/game/record';
import { csvRow } from '@/core/notation/csv';
import { formatKind, separatorOf, writeGame, type Format } from '@/core/notation/formats';
import { gameBatches } from './game-batches';
import { gamesOf } from './game-list';
import { storedGame, type StoredGame } from './games';
import { ownSideOf } from './own-side';
import type { Owner } from './owner';

/**
 * The games of a filter that a format can hold, one after the other.
 * @param write what of a game goes out
 */
export async function* gamesAsText(
  owner: Owner,
  filter: GameFilter,
  format: Format,
  write: (game: StoredGame) => Promise<GameRecord> = ({ record }) => Promise.resolve(record),
): AsyncGenerator<string> {
  const kind = formatKind(format);
  if (filter.kind !== undefined && filter.kind !== kind) return;
  let separator = '';
  for await (const rows of gameBatches(gamesOf(owner, { ...filter, kind })))
    for (const row of rows) {
      yield separator + writeGame(await write(storedGame(row)), format);
      separator = separatorOf(format);
    }
}

const COLUMNS = [
  'game',
  'date',
  'time',
  'event',
  'round',
  'first player',
  'second player',
  'first rating',
  'second rating',
  'result',
  'end',
  'own side',
  'time control',
  'time class',
  'rated',
  'handicap',
  'half moves',
] as const;

/** The games of a filter as a table, a row each, columns named in the first. */
export async function* gamesAsCsv(owner: Owner, filter: GameFilter): AsyncGenerator<string> {
  // by this mark spreadsheets know that it is UTF-8
  yield `\ufeff${csvRow(COLUMNS)}`;
  for await (const rows of gameBatches(gamesOf(owner, filter)))
    for (const row of rows) {
      const side = ownSideOf(owner, row);
      yield csvRow([
        row.kind,
        row.date,
        row.time,
        row.event,
        row.round,
        row.firstPlayer,
        row.secondPlayer,
        row.firstRating,
        row.secondRating,
        row.result,
        row.endReason,
        side === null ? null : side === 0 ? 'first' : 'second',
        row.timeControl,
        row.timeClass,
        row.rated,
        row.handicap,
        row.plies,
      ]);
    }
}
