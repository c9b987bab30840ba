import * as contract from '@/contract/library';
import { readFilter } from '@/contract/game-filter';
import { saveFilter } from '@/server/saved-filters';
import { serve } from '../guard';

/** Keeps a filter under a name; of its address only what is understood. */
export const POST = serve(contract.saveFilter, ({ owner, body: { name, query } }) => {
  const asked = Object.fromEntries(new URLSearchParams(query));
  const kept = contract.listQuery(readFilter(asked), contract.readOrder(asked.sort));
  return saveFilter(owner, name, kept.toString());
});
