import { wordOfSide } from '@/contract/shapes';
import type { GameRecord } from '@/core/game/record';
import { SIDE_FIGURES, type SideFigure } from '@/core/review/game-figures';
import { csvRow } from '@/core/notation/csv';
import { readOpening } from '@/core/openings/opening';
import { formatKind, separatorOf, writeGame, type Format } from '@/core/notation/formats';
import { gameBatches, listBatches } from './game-rows';
import { gamesOf, type GameChoice } from './chosen-games';
import { storedGame, type StoredGame } from './games';
import { ownSideOf, reviewing } from './own-side';
import type { Owner } from './owner';

/**
 * The games of a filter that a format can hold, one after the other.
 * @param write what of a game goes out
 */
export async function* gamesAsText(
  owner: Owner,
  filter: GameChoice,
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

const FIGURE_NAMES: Readonly<Record<SideFigure, string>> = {
  accuracy: 'accuracy',
  error: 'standard error',
  moves: 'moves rated',
  meanLoss: 'mean loss',
  inaccuracies: 'inaccuracies',
  mistakes: 'mistakes',
  blunders: 'blunders',
  worstPly: 'worst half move',
  worstLoss: 'worst loss',
  letOffs: 'let-offs',
  peak: 'best chance',
};

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
  'opening code',
  'opening',
  'half moves',
  'tags',
  'annotated',
  'mean depth',
  'how it went',
  'turning points',
  ...(['first', 'second'] as const).flatMap((side) =>
    SIDE_FIGURES.map((name) => `${side} ${FIGURE_NAMES[name]}` as const),
  ),
] as const;

/** The games of a filter as a table, a row each, columns named in the first. */
export async function* gamesAsCsv(owner: Owner, filter: GameChoice): AsyncGenerator<string> {
  // by this mark spreadsheets know that it is UTF-8
  yield `\ufeff${csvRow(COLUMNS)}`;
  const seen = reviewing(owner, filter);
  for await (const rows of listBatches(gamesOf(owner, filter)))
    for (const row of rows) {
      const side = ownSideOf(seen, row);
      const opening = readOpening(row.opening ?? '');
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
        side === null ? null : wordOfSide(side),
        row.timeControl,
        row.timeClass,
        row.rated,
        row.handicap,
        opening.code || null,
        opening.name || null,
        row.plies,
        row.labels.join('; '),
        row.annotated,
        row.depth,
        row.trend,
        row.turningPoints,
        ...[row.firstFigures, row.secondFigures].flatMap(
          (figures) => figures ?? SIDE_FIGURES.map(() => null),
        ),
      ]);
    }
}
