import { getTranslations } from 'next-intl/server';
import { gameInfo } from '@/core/game/info';
import { encodeShiftJis } from '@/core/notation/encoding';
import {
  extensionOf,
  formatKind,
  FORMATS,
  hasLegacyEncoding,
  writeGame,
} from '@/core/notation/formats';
import { rulesetOf } from '@/core/rulesets';
import { remarksFrom } from '@/core/review/remarks';
import { withFindings } from '@/server/findings';
import { findGame, type StoredGame } from '@/server/games';
import { askerOf } from '@/server/access';
import { sayRemark } from '@/ui/say-remark';
import { admitted, readId, refused, route, type Id } from '../../../guard';

/** The game as a file; `format`, `findings=0` to leave the review out or how it is to be remarked, `encoding=sjis` for KIF in Shift_JIS. */
export const GET = route<Id>(async (request, { id }) => {
  const { searchParams } = new URL(request.url);
  const format = FORMATS.find((known) => known === searchParams.get('format'));
  const gameId = readId(id);
  const { owner } = await admitted(await askerOf(request.headers), 'read', gameId);
  const game = await findGame(owner, gameId);
  if (!game) return refused(404, 'missing');
  if (!format || formatKind(format) !== game.record.tree.kind) return refused(400, 'format');
  const remarks = remarksFrom(Object.fromEntries(searchParams));
  if (!remarks) return refused(400, 'remarks');
  const t = await getTranslations('export');
  const record =
    searchParams.get('findings') === '0'
      ? game.record
      : await withFindings(owner, game, sayRemark(t, remarks), remarks);
  const text = writeGame(record, format);
  const legacy = searchParams.get('encoding') === 'sjis' && hasLegacyEncoding(format);
  const extension = legacy ? format : extensionOf(format);
  const body = legacy ? new Uint8Array(encodeShiftJis(text)) : text;
  return new Response(body, {
    headers: {
      'Content-Type': `text/plain; charset=${legacy ? 'shift_jis' : 'utf-8'}`,
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${nameOf(game)}.${extension}`)}`,
    },
  });
});

function nameOf({ record, preparedFor }: StoredGame): string {
  const { players, date, event } = gameInfo(record);
  const parts =
    preparedFor === null
      ? [date, players[0].name, players[1].name]
      : ['preparation', rulesetOf(record.tree.kind).sides[preparedFor], event];
  return (
    parts
      .filter((part) => part !== null)
      .join(' ')
      .replace(/[\\/:*?"<>|\u0000-\u001f]+/g, '_')
      .slice(0, 100) || 'game'
  );
}
