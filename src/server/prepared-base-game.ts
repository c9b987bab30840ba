import { packMoves } from '@/core/base/packed-moves';
import { gameInfo } from '@/core/game/info';
import type { GameRecord } from '@/core/game/record';
import type { GameKind } from '@/core/game/ruleset';
import { timeClassOf } from '@/core/game/time-class';
import { mainLine } from '@/core/game/tree';
import { packFigures } from '@/core/review/game-figures';
import { statedFigures } from '@/core/review/stated';
import { rulesetOf } from '@/core/rulesets';
import { fingerprintOf } from './prepared-game';

/** A game as a base stores it, ready to be sent to the database; can be made on a thread of its own. */
export interface PreparedBaseGame {
  kind: GameKind;
  /** An object by the names of {@link BASE_COLUMNS}. */
  json: string;
  players: readonly [string | null, string | null];
}

/** What is told of a game, by the names and types of its columns; `moves` in base64. */
export const BASE_COLUMNS = [
  { name: 'fingerprint', type: 'text' },
  { name: 'game_id', type: 'bigint' },
  { name: 'game_version', type: 'integer' },
  { name: 'first_rating', type: 'smallint' },
  { name: 'second_rating', type: 'smallint' },
  { name: 'result', type: 'text' },
  { name: 'date', type: 'text' },
  { name: 'time_class', type: 'text' },
  { name: 'rated', type: 'boolean' },
  { name: 'event', type: 'text' },
  { name: 'start', type: 'text' },
  { name: 'moves', type: 'text' },
  { name: 'tags', type: 'jsonb' },
  { name: 'depth', type: 'real' },
  { name: 'first_figures', type: 'real[]' },
  { name: 'second_figures', type: 'real[]' },
] as const;

/** @param game the game of the library that it is */
export function prepareBaseGame(
  record: GameRecord,
  game: { id: number; version: number } | null = null,
): PreparedBaseGame {
  const { tree, tags, result } = record;
  const info = gameInfo(record);
  const [first, second] = info.players;
  const moves = packMoves(mainLine(tree).map(({ move }) => move));
  const stated = statedFigures(record);
  const values: Record<(typeof BASE_COLUMNS)[number]['name'], unknown> = {
    fingerprint: fingerprintOf(record, info),
    game_id: game?.id ?? null,
    game_version: game?.version ?? null,
    first_rating: first.rating,
    second_rating: second.rating,
    result,
    date: info.date,
    time_class: info.timeControl && timeClassOf(info.timeControl),
    rated: info.rated,
    event: info.event,
    start: tree.start === rulesetOf(tree.kind).startText ? null : tree.start,
    moves: Buffer.from(moves).toString('base64'),
    tags,
    depth: stated && stated.depth,
    first_figures: stated && packFigures(stated.sides[0]),
    second_figures: stated && packFigures(stated.sides[1]),
  };
  return {
    kind: tree.kind,
    json: JSON.stringify(values),
    players: [first.name, second.name],
  };
}
