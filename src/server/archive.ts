import { Readable } from 'node:stream';
import { and, asc, desc, eq, inArray, isNotNull } from 'drizzle-orm';
import { ZipFile } from 'yazl';
import { writeGame } from '@/core/notation/formats';
import { database } from './database';
import { gameBatches } from './game-batches';
import { findGame, recordOf } from './games';
import type { OwnerRef } from './owner';
import { asks, games } from './schema';

type Head = Pick<typeof games.$inferSelect, 'id' | 'date' | 'firstPlayer' | 'secondPlayer'>;

const shogiHeads = (owner: OwnerRef): Promise<Head[]> =>
  database()
    .select({
      id: games.id,
      date: games.date,
      firstPlayer: games.firstPlayer,
      secondPlayer: games.secondPlayer,
    })
    .from(games)
    .where(and(eq(games.ownerId, owner.id), eq(games.kind, 'shogi')))
    .orderBy(asc(games.id));

/** Nothing where the game has been deleted meanwhile. */
async function* kif(owner: OwnerRef, { id }: Head): AsyncGenerator<string> {
  const game = await findGame(owner, id);
  if (game) yield writeGame(game.record, 'kif');
}

async function* allChess(owner: OwnerRef): AsyncGenerator<string> {
  for await (const rows of gameBatches(and(eq(games.ownerId, owner.id), eq(games.kind, 'chess'))!))
    for (const row of rows) yield `${writeGame(recordOf(row), 'pgn')}\n`;
}

/** What sweeps have found, a line for each game that has been gone over. */
async function* allFindings(owner: OwnerRef): AsyncGenerator<string> {
  for await (const rows of gameBatches(eq(games.ownerId, owner.id))) {
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

/** A name that any file system takes, and no other game's file has. */
function fileName({ id, date, firstPlayer, secondPlayer }: Head): string {
  const words = [date, firstPlayer, secondPlayer].filter(Boolean).join(' ');
  const safe = words.replace(/[\\/:*?"<>|\u0000-\u001f]+/g, '_').slice(0, 80);
  return `${id} ${safe}`.trim();
}

/** All that an owner has, as one ZIP file: chess games in one PGN, a KIF for each shogi game, and findings as lines of JSON. */
export async function archiveOf(owner: OwnerRef): Promise<Readable> {
  const zip = new ZipFile();
  /** What is read only when its turn comes. */
  const add = (name: string, text: AsyncIterable<string>): void =>
    zip.addReadStreamLazy(name, (take) => take(null, Readable.from(text)));
  add('chess.pgn', allChess(owner));
  add('findings.jsonl', allFindings(owner));
  for (const head of await shogiHeads(owner)) add(`shogi/${fileName(head)}.kif`, kif(owner, head));
  zip.end();
  const output = Readable.from(zip.outputStream);
  zip.on('error', (error: Error) => output.destroy(error));
  return output;
}
