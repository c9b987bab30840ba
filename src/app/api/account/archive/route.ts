import { Readable } from 'node:stream';
import { askerOf } from '@/server/access';
import { archiveOf } from '@/server/archive';
import { accountIn, route } from '../../guard';

/** All that is in the account, as one file. */
export const GET = route(async (request) => {
  const owner = accountIn(await askerOf(request.headers));
  return new Response(Readable.toWeb(archiveOf(owner)) as ReadableStream, {
    headers: {
      'Content-Type': 'application/zip',
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`bektra ${owner.name}.zip`)}`,
    },
  });
});
