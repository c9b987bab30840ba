import { Readable } from 'node:stream';
import { getTranslations } from 'next-intl/server';
import { extensionOf } from '@/core/notation/formats';
import { askerOf } from '@/server/access';
import { failedFile, reportOf } from '@/server/import-failures';
import { findImport } from '@/server/imports';
import { accountIn, readId, refused, route, type Id } from '../../../guard';

/** What of an import did not go in: `as=games`, the games as they stand in the file, to be mended; `as=report`, what is wrong with each. */
export const GET = route<Id>(async (request, params) => {
  const owner = accountIn(await askerOf(request.headers));
  const known = await findImport(owner, readId(params.id));
  if (!known) return refused(404, 'missing');
  const as = new URL(request.url).searchParams.get('as');
  if (as === 'report') {
    const say = await getTranslations('problem');
    const report = await reportOf(owner, known, ({ code, params }) =>
      say(code as 'file.empty', params),
    );
    return file('txt', 'text/plain; charset=utf-8', report);
  }
  if (as !== 'games') return refused(400, 'malformed');
  const failed = await failedFile(owner, known.id);
  if (!failed) return refused(404, 'missing');
  return failed.format === 'zip'
    ? file('zip', 'application/zip', Readable.toWeb(failed.bytes) as ReadableStream)
    : file(extensionOf(failed.format), 'text/plain; charset=utf-8', failed.text);
});

const file = (extension: string, type: string, body: BodyInit): Response =>
  new Response(body, {
    headers: {
      'Content-Type': type,
      'Content-Disposition': `attachment; filename="not-taken-in.${extension}"`,
    },
  });
