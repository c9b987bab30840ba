import * as contract from '@/contract/players';
import { listPlayers } from '@/server/players';
import { serve } from '../guard';

export const GET = serve(contract.listPlayers, async ({ owner }) => ({
  players: await listPlayers(owner),
}));
