import { limitProblem } from '@/core/game/problem';
import type { GameRecord } from '@/core/game/record';
import { fromJson, type RecordJson } from '@/core/game/serial';
import { treeLimit } from '@/core/game/tree';
import { refuse } from './guard';

/** A game that was sent, its moves replayed; refused where they can't be played, or there are more than is kept. */
export function readRecord(json: RecordJson): GameRecord {
  const record = read(json);
  const limit = treeLimit(record.tree);
  return limit ? refuse(422, 'limit', limitProblem(limit)) : record;
}

function read(json: RecordJson): GameRecord {
  try {
    return fromJson(json, { legality: 'checked' });
  } catch (error) {
    refuse(400, 'malformed', (error as Error).message.slice(0, 200));
  }
}
