import { Readable } from 'node:stream';
import { and, desc, eq, inArray, isNotNull } from 'drizzle-orm';
import { ZipFile } from 'yazl';
import { GAME_KINDS } from '@/core/game/ruleset';
import { extensionOf, formatsFor } from '@/core/notation/formats';
import { database } from './database';
import { gamesAsText } from './export-games';
import { gameBatches } from './game-rows';
import { presentGames } from './chosen-games';
import type { Owner, OwnerRef } from './owner';
import { asks } from './schema';

/** What sweeps have found, a line for each game that has been gone over. */
async function* allFindings(owner: OwnerRef): AsyncGenerator<string> {
  for await (const rows of gameBatches(presentGames(owner))) {
    const found = await database()
      .selectDistinctOn([asks.gameId], {
        gameId: asks.gameId,
        settings: asks.settings,
        engine: asks.version,
        rules: asks.rules,
        findings: asks.findings,
      })
      .from(asks)
      .where(
        and(
          inArray(
            asks.gameId,
            rows.map(({ id }) => id),
          ),
          eq(asks.plan, 'sweep'),
          isNotNull(asks.findings),
        ),
      )
      .orderBy(asks.gameId, desc(asks.id));
    for (const row of rows) {
      const sweep = found.find(({ gameId }) => gameId === row.id);
      if (!sweep) continue;
      const { kind, firstPlayer, secondPlayer, date, round } = row;
      const game = { id: row.id, kind, players: [firstPlayer, secondPlayer], date, round };
      yield `${JSON.stringify({ ...sweep, gameId: undefined, game })}\n`;
    }
  }
}

/** All that an owner has, as one ZIP file: all games of a kind in the format that holds most of them, sheets of preparation likewise, and findings as lines of JSON. */
export function archiveOf(owner: Owner): Readable {
  const zip = new ZipFile();
  /** What is read only when its turn comes. */
  const add = (name: string, text: AsyncIterable<string>): void =>
    zip.addReadStreamLazy(name, (take) => take(null, Readable.from(text)));
  for (const kind of GAME_KINDS) {
    const [format] = formatsFor(kind);
    const file = `${kind}.${extensionOf(format!)}`;
    add(file, gamesAsText(owner, { kind }, format!));
    add(`preparation-${file}`, gamesAsText(owner, { kind, prepared: true }, format!));
  }
  add('findings.jsonl', allFindings(owner));
  zip.end();
  const output = Readable.from(zip.outputStream);
  zip.on('error', (error: Error) => output.destroy(error));
  return output;
}
