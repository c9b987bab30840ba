import * as contract from '@/contract/preparation';
import { listSheets, prepareLines } from '@/server/preparation-sheets';
import { refuse, serve } from '../guard';
import { readRecord } from '../read-record';
import { addedOr, whichOf } from './which';

export const GET = serve(contract.listSheets, ({ owner, query }) =>
  listSheets(whichOf(owner, query)),
);

export const POST = serve(contract.prepareLines, async ({ owner, query, body }) => {
  const { tree } = readRecord(body.lines);
  if (tree.kind !== query.kind) refuse(422, 'unfit');
  return addedOr(await prepareLines(whichOf(owner, query), tree, body));
});
