import { mkdirSync, mkdtempSync, readdirSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import { createHash } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import { eq, inArray, sql } from 'drizzle-orm';
import { zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { mainLine, nodeOf } from '@/core/game/tree';
import { closeDatabase, database, migrateDatabase } from '@/server/database';
import { fillFingerprints } from '@/server/fill';
import { findGame } from '@/server/games';
import { failedFile, FAILURES_KEPT, forgetFailures, reportOf } from '@/server/import-failures';
import { findImport, queueImport, type ImportWishes } from '@/server/imports';
import { listGames } from '@/server/library';
import { makeCollection } from '@/server/collections';
import { changePlayer, listPlayers } from '@/server/players';
import type { Owner } from '@/server/owner';
import { games as rows, imports } from '@/server/schema';
import { runImport } from '@/worker/import-job';
import { takeWatched, type Seen } from '@/worker/watch-folder';
import { newAccount } from '../support/accounts';
import { useOwnDatabase } from '../support/database';
import { queued } from '../support/imports';
import { unzipped } from '../support/zip';

const text = (words: string): Uint8Array => new TextEncoder().encode(words);

/** Games that are unlike each other. */
const games = (name: string, count: number): string =>
  Array.from(
    { length: count },
    (_, index) => `[White "${name}"]\n[Round "${index}"]\n\n1. e4 e5 2. Nf3 Nc6 3. Bb5 a6 *\n`,
  ).join('\n');
const KIF = '手合割：平手\n先手：佐倉 結\n後手：Aino\n   1 ７六歩(77)\n   2 ３四歩(33)\n';

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('files that are sent', () => {
  let owner: Owner;
  beforeAll(async () => {
    process.env.BEKTRA_IMPORT_MB = '8';
    process.env.BEKTRA_UNPACKED_MB = '4';
    await useOwnDatabase('imports_test');
    await migrateDatabase();
    owner = await newAccount('Owner');
  });
  afterAll(closeDatabase);

  const take = async (name: string, bytes: Uint8Array, wishes: ImportWishes = {}) => {
    const pieces = Array.from({ length: Math.ceil(bytes.length / 70_001) }, (_, index) =>
      bytes.subarray(70_001 * index, 70_001 * (index + 1)),
    );
    const { id } = await queued(owner, name, pieces, wishes);
    await runImport(id, new AbortController().signal);
    return (await findImport(owner, id))!;
  };

  it('are taken in gzipped', async () => {
    const status = await take('a.pgn.gz', gzipSync(text(games('gzip', 700))));
    expect(status).toMatchObject({ state: 'done', kept: 700, failed: 0 });
    // and the same games as they are change nothing
    expect(await take('a.pgn', text(games('gzip', 700)))).toMatchObject({
      state: 'done',
      kept: 0,
      duplicates: 700,
    });
  });

  it('lose nothing where more of the file is asked for while games are stored', async () => {
    // tags that do not shrink, so that what is sent is several pieces
    const tag = (seed: string): string =>
      `[Note${seed} "${createHash('sha512').update(seed).digest('base64')}"]\n`;
    const long = (name: string): string =>
      games(name, 1100).replaceAll(
        /\[Round "(\d+)"\]\n/g,
        (head, index) =>
          head + Array.from({ length: 25 }, (_, part) => tag(`${name}${index}x${part}`)).join(''),
      );
    const names = ['First', 'Second', 'Third'];
    const all = await Promise.all(
      names.map((name) => take(`${name}.pgn.gz`, gzipSync(text(long(name))))),
    );
    for (const status of all) {
      expect(status.size).toBeGreaterThan(1.5 * 1024 * 1024);
      expect(status).toMatchObject({ state: 'done', read: 1100, kept: 1100, failed: 0 });
    }
  });

  it('are taken in from a ZIP archive, of either game and whatever they are called', async () => {
    const zip = zipSync({
      'season/': new Uint8Array(),
      'season/spring.pgn': text(games('spring', 600)),
      'season/old.kif': text(KIF),
      'season/no ending': text(games('summer', 3)),
    });
    const status = await take('season.zip', zip);
    expect(status).toMatchObject({ state: 'done', read: 604, kept: 604, failed: 0 });
    const other = zipSync({ 'b.kifu': text(KIF.replace('Aino', 'Ottilie')) });
    const { gameIds } = await take('other.zip', other);
    expect((await findGame(owner, gameIds[0]!))!.record.tree.kind).toBe('shogi');
  });

  it('keep what came before an archive broke off, and say so', async () => {
    const gz = gzipSync(text(games('broken', 3000)));
    const status = await take('broken.gz', gz.subarray(0, gz.length / 2));
    expect(status.state).toBe('failed');
    expect(status.kept).toBeGreaterThan(100);
    expect(status.kept).toBeLessThan(3000);
    expect(status.problems).toMatchObject([
      { code: 'file.damaged', place: { game: status.kept + 1 } },
    ]);
    expect(await take('none.gz', gz.subarray(0, 12))).toMatchObject({
      state: 'failed',
      kept: 0,
      problems: [{ code: 'file.damaged' }],
    });
  });

  it('are no bombs', async () => {
    const status = await take('bomb.gz', gzipSync(Buffer.alloc(5 * 1024 * 1024, '[White "A"]\n')));
    expect(status).toMatchObject({ state: 'failed', kept: 0, problems: [{ code: 'file.bomb' }] });
  });

  it('may have nothing in them that can be read, and say what', async () => {
    for (const [name, file, code] of [
      ['nothing.zip', zipSync({ 'a/': new Uint8Array() }), 'file.noGames'],
      ['letters.gz', gzipSync(text('Dear Mirela,')), 'file.format'],
      ['empty.gz', gzipSync(''), 'file.empty'],
      ['picture.gz', gzipSync(Buffer.alloc(100)), 'file.binary'],
    ] as const)
      expect(await take(name, file), name).toMatchObject({ state: 'failed', problems: [{ code }] });
  });

  it('may have other things beside them in an archive, which are told of and hold nothing back', async () => {
    const zip = zipSync({
      'a.png': Buffer.alloc(300_000),
      'b.pgn': text(games('beside', 2)),
      'read me.txt': text('Dear Mirela,'),
      'c.pgn': new Uint8Array(),
      'd.pgn': text(games('behind', 3)),
    });
    const status = await take('mixed.zip', zip);
    expect(status).toMatchObject({ state: 'done', read: 8, kept: 5, failed: 3 });
    expect(status.problems.map(({ code, params }) => [code, params.name])).toEqual(
      ['a.png', 'read me.txt', 'c.pgn'].map((name) => ['file.leftOut', name]),
    );
  });

  it('are read in the legacy encoding from where it begins', async () => {
    const latin = Buffer.concat([
      text(games('latin', 2000)),
      Buffer.from('\n[White "J\xfcrgen \x96 \x93Zo\xeb\x94"]\n\n1. b4 *\n', 'latin1'),
    ]);
    const status = await take('latin.pgn', latin);
    expect(status).toMatchObject({ state: 'done', kept: 2001 });
  });

  it('are refused where they are too large, and leave nothing behind', async () => {
    async function* endless() {
      await Promise.resolve();
      for (;;) yield new Uint8Array(1024 * 1024).fill(32);
    }
    const before = await database().$count(imports);
    expect(await queueImport(owner, 'large.pgn', endless())).toBe('tooLarge');
    expect(await database().$count(imports)).toBe(before);
  });

  it('tell how far they were read, and how long it took', async () => {
    const status = await take('pace.pgn', text(games('pace', 900)));
    expect(status.readBytes).toBe(status.size);
    expect(status.elapsed).toBeGreaterThan(0);
    const later = await findImport(owner, status.id);
    // it is over
    expect(later!.elapsed).toBe(status.elapsed);
  });

  describe('of games that are there already', () => {
    const game = (tags: string, moves: string): Uint8Array =>
      text(`[White "Tanase, Mirela"]\n[Black "Aino"]\n[Date "2026.03.04"]\n${tags}\n\n${moves}\n`);
    const LINE =
      '1. e4 e5 2. Nf3 Nc6 3. Bb5 a6 4. Ba4 Nf6 5. O-O Be7 6. Re1 b5 7. Bb3 d6 8. c3 O-O 9. h3 Nb8 10. d4 Nbd7';

    it('add what these don’t say, and change nothing the second time', async () => {
      const first = await take('first.pgn', game('[Round "3"]', `${LINE} *`));
      const id = first.gameIds[0]!;
      const more = game(
        '[WhiteElo "1801"]',
        `${LINE.replace('e5 2.', 'e5 {[%clk 0:09:58] solid} (1... c5) 2.')} 1-0`,
      );
      // another place writes the names otherwise, and knows of no round
      const other = Buffer.from(
        Buffer.from(more).toString().replace('Tanase, Mirela', 'Mirela TANASE'),
      );
      const second = await take('second.pgn', other);
      expect(second).toMatchObject({ kept: 0, duplicates: 1, merged: 1, gameIds: [id] });
      const { record, version } = (await findGame(owner, id))!;
      expect(record.result).toBe('1-0');
      expect(record.tags).toContainEqual({ name: 'Round', value: '3' });
      expect(record.tags).toContainEqual({ name: 'WhiteElo', value: '1801' });
      const black = mainLine(record.tree)[1]!;
      expect(black).toMatchObject({ clock: 598_000, comment: 'solid' });
      expect(nodeOf(record.tree, black.parent!).children).toHaveLength(2);
      const [row] = await listGames(owner, { text: 'solid' }, { count: 9 });
      expect(row).toMatchObject({ id, annotated: true, ratings: [1801, null] });
      for (const bytes of [other, more, game('[Round "3"]', `${LINE} *`)])
        expect(await take('again.pgn', bytes)).toMatchObject({ duplicates: 1, merged: 0 });
      expect((await findGame(owner, id))!.version).toBe(version);
    });

    it('are those of the same file too', async () => {
      const twice = Buffer.concat([
        game('', `${LINE} 11. c4 {first} *`),
        text('\n'),
        game('', `${LINE} 11. c4 {second} *`),
      ]);
      const status = await take('twice.pgn', twice);
      expect(status).toMatchObject({ kept: 1, duplicates: 1, merged: 1 });
      const { record } = (await findGame(owner, status.gameIds[0]!))!;
      expect(mainLine(record.tree).at(-1)!.comment).toBe('first\n\nsecond');
    });

    it('are not those of another day, of other players, or short ones of another round', async () => {
      const status = await take(
        'others.pgn',
        Buffer.concat([
          Buffer.from(
            Buffer.from(game('', `${LINE} *`))
              .toString()
              .replace('03.04', '03.05'),
          ),
          text('\n'),
          Buffer.from(
            Buffer.from(game('', `${LINE} *`))
              .toString()
              .replace('Aino', 'Ottilie'),
          ),
          text('\n'),
          game('[Round "1"]', '1. d4 d5 1/2-1/2'),
          text('\n'),
          game('[Round "2"]', '1. d4 d5 1/2-1/2'),
        ]),
      );
      expect(status).toMatchObject({ kept: 4, duplicates: 0 });
    });

    it('leave copies as they are', async () => {
      const status = await take('copy.pgn', game('', `${LINE.replace('e4', 'e4 {mine}')} *`), {
        asCopies: true,
      });
      expect(status).toMatchObject({ kept: 1, merged: 0 });
    });

    it('are known by fingerprints that were made before, once they are made anew', async () => {
      const status = await take('old.pgn', game('[Round "9"]', `${LINE} 11. a3 *`));
      const id = status.gameIds[0]!;
      const [{ fingerprint } = { fingerprint: '' }] = await database()
        .update(rows)
        .set({ fingerprint: 'as they were made' })
        .where(eq(rows.id, id))
        .returning();
      expect(fingerprint).toBe('as they were made');
      const again = await take('old.pgn', game('[Round "9"]', `${LINE} 11. a3 *`));
      expect(again.kept).toBe(1);
      await fillFingerprints();
      const both = await database()
        .select({ fingerprint: rows.fingerprint })
        .from(rows)
        .where(inArray(rows.id, [id, again.gameIds[0]!]));
      const [old, now] = both.map((row) => row.fingerprint.split(':'));
      expect(old![0]).toBe(now![0]);
      expect(both.map((row) => row.fingerprint.includes(':'))).toContain(true);
      await fillFingerprints();
    });
  });

  describe('with games that can’t be read', () => {
    const BAD = '[White "Bad"]\n\n1. e4 e5 2. Ke3 *';
    const say = ({ code }: { code: string }) => code;

    it('give those back to be mended, and say what is wrong with each', async () => {
      const status = await take('some.pgn', text(`${games('good', 2)}\n${BAD}\n\n1. d5 *\n`));
      expect(status).toMatchObject({ kept: 2, failed: 2 });
      expect(await failedFile(owner, status.id)).toEqual({
        format: 'pgn',
        text: `${BAD}\n\n1. d5 *\n`,
      });
      expect((await reportOf(owner, status, say)).split('\n')).toEqual([
        'some.pgn:13:13: 3: move.illegal',
        'some.pgn:15:4: 4: move.illegal',
        '',
      ]);
      // mended, they go in
      const mended = BAD.replace('Ke3', 'Ke2');
      expect(await take('not-taken-in.pgn', text(mended))).toMatchObject({ kept: 1, failed: 0 });
      const stranger = await newAccount('Stranger');
      expect(await failedFile(stranger, status.id)).toBeNull();
      expect(await reportOf(stranger, status, say)).toBe('… 2\n');
    });

    it('give them back as a ZIP file where they are of several formats', async () => {
      const kif = KIF.replace('３四歩(33)', '３五歩(33)');
      const zip = zipSync({ 'a.pgn': text(BAD), 'b.kif': text(kif), 'c.kif': text(kif) });
      const status = await take('both.zip', zip);
      expect(status).toMatchObject({ state: 'done', kept: 0, failed: 3 });
      const failed = (await failedFile(owner, status.id))!;
      const files =
        'bytes' in failed ? unzipped(await buffer(failed.bytes)) : new Map<string, string>();
      expect([...files.keys()]).toEqual(['not-taken-in.pgn', 'not-taken-in.kifu']);
      expect(files.get('not-taken-in.kifu')!.match(/手合割/g)).toHaveLength(2);
      const again = await take(
        'again.zip',
        zipSync({ 'b.kifu': text(files.get('not-taken-in.kifu')!) }),
      );
      expect(again).toMatchObject({ failed: 2 });
    });

    it('keep no more of them than there is room for', async () => {
      const long = `[White "Long"]\n\n1. e4 {${'x'.repeat(FAILURES_KEPT.text)}} Ke3 *\n`;
      const status = await take('long.pgn', text(`${long}\n${BAD}\n`));
      expect(status.failed).toBe(2);
      expect(await failedFile(owner, status.id)).toEqual({ format: 'pgn', text: `${BAD}\n` });
      expect(await reportOf(owner, status, say)).toContain('long.pgn:3:');
      const before = { ...FAILURES_KEPT };
      Object.assign(FAILURES_KEPT, { most: 2, texts: BAD.length });
      try {
        const most = await take('most.pgn', text(`${BAD}\n\n${BAD}\n\n${BAD}\n`));
        expect(most.failed).toBe(3);
        expect(await failedFile(owner, most.id)).toEqual({ format: 'pgn', text: `${BAD}\n` });
        expect((await reportOf(owner, most, say)).trim().split('\n').at(-1)).toBe('… 1');
      } finally {
        Object.assign(FAILURES_KEPT, before);
      }
    });

    it('are forgotten a month later', async () => {
      const status = await take('month.pgn', text(BAD));
      const at = (days: number) =>
        database()
          .update(imports)
          .set({ finishedAt: sql`now() - make_interval(days => ${days}, hours => 1)` })
          .where(eq(imports.id, status.id));
      await at(29);
      await forgetFailures();
      expect(await failedFile(owner, status.id)).not.toBeNull();
      await at(30);
      await forgetFailures();
      expect(await failedFile(owner, status.id)).toBeNull();
    });
  });

  describe('with wishes', () => {
    it('are put into a collection and given tags, those that were there too', async () => {
      await take('there.pgn', text(games('there', 1)));
      const collection = (await makeCollection(owner, 'Autumn'))!.id;
      const wishes = { collection, labels: ['autumn', 'to show'] };
      const status = await take('autumn.pgn', text(games('there', 3)), wishes);
      expect(status).toMatchObject({ kept: 2, duplicates: 1 });
      await take('autumn.pgn', text(games('there', 3)), wishes);
      const found = await listGames(owner, { collection }, { count: 9 });
      expect(found.map(({ labels }) => labels)).toEqual(Array(3).fill(['autumn', 'to show']));
    });

    it('learn under which name a player appears', async () => {
      await take('name.pgn', text(games('Ottilie Brandt', 1)));
      const player = (await listPlayers(owner)).find(({ name }) => name === 'Ottilie Brandt')!.id;
      await take('online.pgn', text(games('o_brandt', 3)), { player });
      const names = async () =>
        (await listPlayers(owner)).find(({ id }) => id === player)!.names.toSorted();
      expect(await names()).toEqual(['Ottilie Brandt', 'o_brandt']);
      expect(await listGames(owner, { player }, { count: 9 })).toHaveLength(4);
      // of two names in every game none stands out
      const pair = games('o_b', 2).replaceAll('[Round', '[Black "Mo"]\n[Round');
      await take('pair.pgn', text(pair), { player });
      // and of many none
      await take('many.pgn', text(games('p', 1) + '\n' + games('q', 1)), { player });
      expect(await names()).toHaveLength(2);
      // the owner is nobody else
      await take('self.pgn', text(games('Myself', 1)));
      const self = (await listPlayers(owner)).find(({ name }) => name === 'Myself')!;
      await changePlayer(owner, self.id, { isSelf: true, join: [] });
      await take('self.pgn', text(games('Myself', 3)), { player });
      expect(await names()).toHaveLength(2);
    });

    it('are of one’s own collections and players alone', async () => {
      const stranger = await newAccount('Other');
      const collection = (await makeCollection(stranger, 'Theirs'))!.id;
      const [file] = [[text(games('x', 1))]];
      expect(await queueImport(owner, 'a.pgn', file, { collection })).toBe('missing');
      expect(await queueImport(owner, 'a.pgn', file, { player: 999_999 })).toBe('missing');
      const [someone] = await listPlayers(owner);
      expect(await queueImport(stranger, 'a.pgn', file, { player: someone!.id })).toBe('missing');
    });
  });

  describe('that an operator’s folder holds', () => {
    it('are taken in for the account of that name once they are whole', async () => {
      const folder = mkdtempSync(join(tmpdir(), 'bektra-watch-'));
      const mine = join(folder, 'OWNER');
      mkdirSync(join(mine, 'a folder'), { recursive: true });
      mkdirSync(join(folder, 'nobody'));
      writeFileSync(join(folder, 'nobody', 'a.pgn'), games('watch', 1));
      writeFileSync(join(folder, 'loose.pgn'), games('watch', 1));
      writeFileSync(join(mine, '.hidden.pgn'), games('watch', 1));
      writeFileSync(join(mine, 'empty.pgn'), '');
      writeFileSync(join(mine, 'large.pgn'), Buffer.alloc(9 * 1024 * 1024, ' '));
      symlinkSync(join(folder, 'loose.pgn'), join(mine, 'link.pgn'));
      writeFileSync(join(mine, 'club.pgn'), games('watch', 2));
      const seen: Seen = new Map();
      const queuedNow = () => database().$count(imports, eq(imports.name, 'club.pgn'));
      await takeWatched(folder, seen);
      expect(await queuedNow()).toBe(0);
      // it grew since
      writeFileSync(join(mine, 'club.pgn'), games('watch', 3));
      await takeWatched(folder, seen);
      expect(await queuedNow()).toBe(0);
      await takeWatched(folder, seen);
      const [row] = await database().select().from(imports).where(eq(imports.name, 'club.pgn'));
      expect(row!.ownerId).toBe(owner.id);
      await runImport(row!.id, new AbortController().signal);
      expect(await findImport(owner, row!.id)).toMatchObject({ state: 'done', kept: 3 });
      expect(readdirSync(mine).toSorted()).toEqual(
        ['.hidden.pgn', 'a folder', 'empty.pgn', 'link.pgn', 'refused', 'taken'].toSorted(),
      );
      expect(readdirSync(join(mine, 'refused'))).toEqual(['large.pgn']);
      // another of that name does not write over it
      writeFileSync(join(mine, 'club.pgn'), games('watch', 4));
      await takeWatched(folder, seen);
      await takeWatched(folder, seen);
      expect(readdirSync(join(mine, 'taken'))).toHaveLength(2);
      expect(await queuedNow()).toBe(2);
      rmSync(folder, { recursive: true });
    });
  });
});
