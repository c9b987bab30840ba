import { sql } from 'drizzle-orm';
import { mergeSteps } from '@/core/game/merge';
import { freshId } from '@/core/game/steps';
import type { Transaction } from './database';
import { addToGame, recordOf } from './games';
import type { OwnerRef } from './owner';
import { recordFacts, type PreparedGame } from './prepared-game';

/** A game that was there already, and what came in of it. */
export interface Duplicate {
  id: number;
  prepared: PreparedGame;
}

/**
 * Adds to games what others that came in say of them beyond it; the ids of those to which something was added. For a transaction that
 * holds who the owner's players are.
 */
export async function mergeDuplicates(
  tx: Transaction,
  owner: OwnerRef,
  duplicates: readonly Duplicate[],
): Promise<number[]> {
  if (duplicates.length === 0) return [];
  const merged: number[] = [];
  for (const { id, prepared } of await thatDiffer(tx, duplicates)) {
    const other = recordOf(recordFacts(prepared));
    const isNew = await addToGame(tx, owner, id, (known) =>
      mergeSteps(known, other, () => freshId(known.tree, Math.random)),
    );
    if (isNew) merged.push(id);
  }
  return merged;
}

/** Those of which something else came in than what is stored: mostly none, when a file comes again. */
async function thatDiffer(tx: Transaction, duplicates: readonly Duplicate[]): Promise<Duplicate[]> {
  const ids = duplicates.map(({ id }) => id).join(',');
  const told = duplicates.map(({ prepared }) => prepared.json).join(',');
  const { rows } = await tx.execute<{ place: string }>(sql`
    select place
    from unnest(${`{${ids}}`}::bigint[]) with ordinality as named (game_id, place)
    join json_array_elements(${`[${told}]`}::json) with ordinality as told (game, place) using (place)
    join game_records using (game_id)
    join games on games.id = game_id
    where nodes <> (game -> 'nodes')::jsonb or not game_records.tags @> (game -> 'tags')::jsonb
      or (games.result = '*' and game ->> 'result' <> '*')
    order by place`);
  return rows.map(({ place }) => duplicates[Number(place) - 1]!);
}
