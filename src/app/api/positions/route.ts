import { findPosition } from '@/contract/games';
import { PositionError } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { occurrencesOf } from '@/server/occurrences';
import { refuse, serve } from '../guard';

/** Where else the owner had a position. */
export const GET = serve(findPosition, async ({ owner, query: { kind, position, except } }) => {
  try {
    return await occurrencesOf(owner, kind, rulesetOf(kind).start(position), except);
  } catch (error) {
    if (error instanceof PositionError) refuse(400, error.code, error.params);
    throw error;
  }
});
