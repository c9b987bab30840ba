import { gzipSync } from 'node:zlib';
import { zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDatabase, database, migrateDatabase } from '@/server/database';
import { findGame } from '@/server/games';
import { findImport, queueImport } from '@/server/imports';
import type { Owner } from '@/server/owner';
import { imports } from '@/server/schema';
import { runImport } from '@/worker/import-job';
import { newAccount } from '../support/accounts';
import { useOwnDatabase } from '../support/database';
import { queued } from '../support/imports';

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

  const take = async (name: string, bytes: Uint8Array) => {
    const pieces = Array.from({ length: Math.ceil(bytes.length / 70_001) }, (_, index) =>
      bytes.subarray(70_001 * index, 70_001 * (index + 1)),
    );
    const { id } = await queued(owner, name, pieces, false);
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
    const status = await take('bomb.gz', gzipSync(Buffer.alloc(5 * 1024 * 1024, 'x')));
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
    expect(await queueImport(owner, 'large.pgn', endless(), false)).toBe('tooLarge');
    expect(await database().$count(imports)).toBe(before);
  });
});
