import { Readable } from 'node:stream';
import { getTranslations } from 'next-intl/server';
import { readFilter, readIds } from '@/contract/game-filter';
import type { GameRecord } from '@/core/game/record';
import { encodeShiftJis } from '@/core/notation/encoding';
import { extensionOf, FORMATS, hasLegacyEncoding } from '@/core/notation/formats';
import { remarksFrom } from '@/core/review/remarks';
import { askerOf } from '@/server/access';
import { gamesAsCsv, gamesAsText } from '@/server/export-games';
import { withFindings } from '@/server/findings';
import type { StoredGame } from '@/server/games';
import { sayRemark } from '@/ui/say-remark';
import { accountIn, refused, route } from '../../guard';

/**
 * The games of a filter, or those named by `ids`, as a file: `format` (or `csv` for the table), `findings=1` with what sweeps have
 * found, `encoding=sjis` for KIF in Shift_JIS.
 */
export const GET = route(async (request) => {
  const owner = accountIn(await askerOf(request.headers));
  const query = Object.fromEntries(new URL(request.url).searchParams);
  const ids = readIds(query.ids);
  if (query.ids !== undefined && !ids) return refused(400, 'ids');
  const filter = { ...readFilter(query), ids };
  const format = FORMATS.find((known) => known === query.format);
  if (!format && query.format !== 'csv') return refused(400, 'format');
  const remarks = remarksFrom(query);
  if (!remarks) return refused(400, 'remarks');
  const withWords = async (): Promise<(game: StoredGame) => Promise<GameRecord>> => {
    const say = sayRemark(await getTranslations('export'), remarks);
    return (game) => withFindings(owner, game, say, remarks);
  };
  const text = format
    ? gamesAsText(owner, filter, format, query.findings === '1' ? await withWords() : undefined)
    : gamesAsCsv(owner, filter);
  const isLegacy = query.encoding === 'sjis' && format !== undefined && hasLegacyEncoding(format);
  const extension = !format ? 'csv' : isLegacy ? format : extensionOf(format);
  const encode = isLegacy ? encodeShiftJis : (piece: string) => new TextEncoder().encode(piece);
  return new Response(Readable.toWeb(Readable.from(encoded(text, encode))) as ReadableStream, {
    headers: {
      'Content-Type': `text/${format ? 'plain' : 'csv'}; charset=${isLegacy ? 'shift_jis' : 'utf-8'}`,
      'Content-Disposition': `attachment; filename="bektra.${extension}"`,
    },
  });
});

async function* encoded(
  text: AsyncIterable<string>,
  encode: (piece: string) => Uint8Array,
): AsyncGenerator<Uint8Array> {
  for await (const piece of text) yield encode(piece);
}
