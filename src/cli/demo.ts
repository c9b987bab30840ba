import { createReadStream, existsSync } from 'node:fs';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { decodeText } from '@/core/notation/encoding';
import { formatKind, formatOfName, readGames } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { SWEEP_PRESETS } from '@/core/review/sweep-settings';
import { findAccount, makeOwner } from '@/server/accounts';
import { makeBase } from '@/server/bases';
import { startBatch } from '@/server/batches';
import { changeGames } from '@/server/change-games';
import { makeCollection } from '@/server/collections';
import { database } from '@/server/database';
import { everHadGames } from '@/server/library';
import { give } from '@/server/grants';
import { queueImport } from '@/server/imports';
import { insertGames } from '@/server/insert-games';
import { demoOwner, type Owner } from '@/server/owner';
import { changePlayer, listPlayers } from '@/server/players';
import { prepareGame } from '@/server/prepared-game';
import { saveFilter } from '@/server/saved-filters';
import { settings } from '@/server/settings';
import { BASES, baseFile } from '../../demo/base-scenario';
import { LIBRARIES, STUDENT } from '../../demo/scenario';
import { EXIT } from './exit';

/** Plays the games under demo anew, or those of the bases, or goes over some of these; of one base by its file, where it is named. */
export async function remakeDemo(what?: string, file?: string): Promise<number> {
  if (what === 'bases') {
    const { makeDemoBases } = await import('../../demo/make-bases');
    await makeDemoBases(settings().root, join(settings().data, 'demo-bases'), file);
    return EXIT.done;
  }
  if (what === 'sweeps') {
    const { makeDemoSweeps } = await import('../../demo/make-sweeps');
    await makeDemoSweeps(settings().root, join(settings().data, 'demo-sweeps'), file);
    return EXIT.done;
  }
  const { makeDemoGames } = await import('../../demo/make-games');
  await makeDemoGames(settings().root);
  return EXIT.done;
}

/** Games that the demo's player shows to her student, and how far those go that she remembers for their endings. */
const SHOWN = 3;
const TOUGH = 8;

/** Fills a new database with the made-up games under demo: those of a player, and of her student, who has given them to her. */
export async function seedDemo(say: (text: string) => void): Promise<void> {
  const folder = (name: string): string => join(settings().root, 'demo', name);
  const [coachs, students] = LIBRARIES;
  if ((await everHadGames()) || !existsSync(folder(coachs.folder))) return;
  say('Filling in the demo games …');
  const coach = await demoOwner();
  const games = await takeIn(coach, folder(coachs.folder));
  await changeGames(coach, { ids: games.slice(0, SHOWN) }, { do: 'label', label: 'to show' });
  await changeGames(
    coach,
    { ids: games.slice(SHOWN - 1, TOUGH) },
    { do: 'label', label: 'tough endgame' },
  );
  await saveFilter(coach, 'Lost as second', 'outcome=lost&side=second');
  await seedBases(coach);
  // nobody signs in to it: it has no password
  const student = (await makeOwner(STUDENT)) ?? (await findAccount(STUDENT));
  if (!student || !existsSync(folder(students.folder))) return;
  await takeIn(student, folder(students.folder));
  await goOver(coach);
  await goOver(student);
  const self = (await listPlayers(student)).find(({ name }) => name === STUDENT);
  if (self) await changePlayer(student, self.id, { isSelf: true, join: [] });
  await give(student, { scope: { of: 'all' }, to: coach.name, right: 'edit', until: null });
  const shown = await makeCollection(coach, `To show ${STUDENT.split(' ')[0]}`);
  if (!shown) return;
  await changeGames(coach, { ids: games.slice(0, SHOWN) }, { do: 'put', collection: shown.id });
  const scope = { of: 'collection', id: shown.id } as const;
  await give(coach, { scope, to: STUDENT, right: 'comment', until: null });
}

/** Has somebody's games gone over behind all that is asked for: figures are there for who only looks around. */
async function goOver(owner: Owner): Promise<void> {
  const quick = { average: { nodes: SWEEP_PRESETS.quick } };
  if (settings().sweepsDemo)
    await startBatch(owner, { onlyNew: true }, quick, { isUnhurried: true });
}

/** Makes the bases of made-up games, which the worker fills. */
async function seedBases(owner: Owner): Promise<void> {
  const folder = join(settings().root, 'demo/bases');
  if (!existsSync(folder)) return;
  for (const demo of BASES) {
    const { name, kind } = demo;
    const base = await makeBase(owner, { name, kind, source: { from: 'files' } });
    if (typeof base === 'string') continue;
    const pieces = createReadStream(join(folder, baseFile(demo)));
    await queueImport(owner, baseFile(demo), pieces, { base: base.id, isUnhurried: true });
  }
}

/** Stores the games of a folder's files; their ids. */
async function takeIn(owner: Owner, folder: string): Promise<number[]> {
  const ids: number[] = [];
  for (const name of (await readdir(folder)).sort()) {
    const format = formatOfName(name);
    if (!format) continue;
    const text = decodeText(await readFile(join(folder, name)), formatKind(format));
    const prepared = [...readGames(text, format)]
      .filter(isRead)
      .map(({ record }) => prepareGame(record));
    const stored = await database().transaction((tx) => insertGames(tx, owner, prepared, name));
    ids.push(...stored.map(({ id }) => id));
  }
  return ids;
}
