import { Readable } from 'node:stream';
import { getTranslations } from 'next-intl/server';
import { readFilter } from '@/contract/game-filter';
import type { GameRecord } from '@/core/game/record';
import { extensionOf, FORMATS } from '@/core/notation/formats';
import { remarksFrom } from '@/core/review/remarks';
import { askerOf } from '@/server/access';
import { gamesAsCsv, gamesAsText } from '@/server/export-games';
import { withFindings } from '@/server/findings';
import type { StoredGame } from '@/server/games';
import { sayRemark } from '@/ui/say-remark';
import { accountIn, refused, route } from '../../guard';

/** The games of a filter as a file: `format` (or `csv` for the table), `findings=1` with what sweeps have found. */
export const GET = route(async (request) => {
  const owner = accountIn(await askerOf(request.headers));
  const query = Object.fromEntries(new URL(request.url).searchParams);
  const filter = readFilter(query);
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
  const extension = format ? extensionOf(format) : 'csv';
  return new Response(Readable.toWeb(Readable.from(encoded(text))) as ReadableStream, {
    headers: {
      'Content-Type': `text/${format ? 'plain' : 'csv'}; charset=utf-8`,
      'Content-Disposition': `attachment; filename="bektra.${extension}"`,
    },
  });
});

async function* encoded(text: AsyncIterable<string>): AsyncGenerator<Uint8Array> {
  const encoder = new TextEncoder();
  for await (const piece of text) yield encoder.encode(piece);
}
