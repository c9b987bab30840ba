import { withdrawGrant } from '@/contract/grants';
import { withdraw } from '@/server/grants';
import { refuse, serve } from '../../guard';

export const DELETE = serve(withdrawGrant, async ({ owner, id }) => {
  if (!(await withdraw(owner, id))) refuse(404, 'missing');
});
