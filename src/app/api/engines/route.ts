import { listEngines } from '@/contract/studies';
import { offeredEngines } from '@/server/external-engines';
import { serve } from '../guard';

/** The external engines that may be asked about a game of a kind. */
export const GET = serve(listEngines, ({ owner, query }) => offeredEngines(owner, query.kind));
