import type { GameRecord } from '../game/record';
import { writeKif } from './kif/write-kif';
import { writePgn } from './pgn/write-pgn';

/** Writes a game in the one format of its kind that holds most of it. */
export const writeOwnFormat = (record: GameRecord): { text: string; extension: string } =>
  record.tree.kind === 'chess'
    ? { text: writePgn(record), extension: 'pgn' }
    : { text: writeKif(record), extension: 'kifu' };
