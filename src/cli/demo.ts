import { existsSync } from 'node:fs';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { decodeText } from '@/core/notation/encoding';
import { formatKind, formatOfName, readGames } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { database } from '@/server/database';
import { everHadGames } from '@/server/game-list';
import { insertGames } from '@/server/insert-games';
import { demoOwner } from '@/server/owner';
import { prepareGame } from '@/server/prepared-game';
import { settings } from '@/server/settings';
import { EXIT } from './exit';

/** Plays the games of demo/games anew. */
export async function remakeDemo(): Promise<number> {
  const { makeDemoGames } = await import('../../demo/make-games');
  await makeDemoGames(settings().root);
  return EXIT.done;
}

/** Fills a new database with the made-up games of demo/games. */
export async function seedDemo(say: (text: string) => void): Promise<void> {
  const owner = await demoOwner();
  const folder = join(settings().root, 'demo/games');
  if ((await everHadGames()) || !existsSync(folder)) return;
  say('Filling in the demo games …');
  for (const name of (await readdir(folder)).sort()) {
    const format = formatOfName(name);
    if (!format) continue;
    const text = decodeText(await readFile(join(folder, name)), formatKind(format));
    const prepared = [...readGames(text, format)]
      .filter(isRead)
      .map(({ record }) => prepareGame(record));
    await database().transaction((tx) => insertGames(tx, owner, prepared, name));
  }
}
