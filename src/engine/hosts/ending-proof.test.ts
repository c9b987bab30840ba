import { existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { chess } from '@/core/chess/ruleset';
import {
  isBetter,
  placeIn,
  readValue,
  worthOf,
  worthOfMoves,
  type Worth,
} from '@/core/endings/exact';
import type { Place } from '@/core/endings/numbering';
import { promotes, sizeOf } from '@/core/endings/slice';
import { buildEndings, proveSlices } from './ending-build';
import { DamagedEnding, EndingFiles, proofFile } from './ending-files';
import { planProof, reachOf, type ProofPlan } from './ending-plan';
import { proveAs } from './ending-proof';

const FILES = {
  module: resolve('dist/engine/endings.wasm'),
  thread: resolve('dist/ending-thread.mjs'),
};
const root = mkdtempSync(join(tmpdir(), 'bektra-proof-'));
afterAll(() => rmSync(root, { recursive: true, force: true }));
/** Everything solved exactly, beside what proofs say. */
const exactFolder = join(root, 'exact');
const folder = join(root, 'proofs');
/** A proof that stops where pawns become something else. */
const shortFolder = join(root, 'short');
const proving = (signal = new AbortController().signal) => ({
  folder,
  threads: 2,
  signal,
  budget: 200e6,
  onProgress: () => undefined as void,
});
const GIGABYTES = 4e9;

/** A pawn that a knight may stop; what it becomes is the stronger side, as which white is taken. */
const KNIGHT = chess.start('8/8/8/8/4k3/7p/1N6/K7 w - - 0 1');
const BEHIND = chess.start('8/8/8/8/4k3/8/1N5p/K7 w - - 0 1');
const slice = (position = KNIGHT) => (placeIn(position) as Place).slice;

/** As a proof goes about what is too much to be solved exactly. */
const inBounds = async (into = folder): Promise<ProofPlan> => ({
  how: 'bounds',
  seconds: 0,
  reach: (await reachOf([slice()], into, 2, undefined, (way) => !promotes(way)))!,
});

const reading = <T>(from: string, read: (tables: EndingFiles) => T): T => {
  const tables = new EndingFiles(from);
  try {
    return read(tables);
  } finally {
    tables.close();
  }
};
const proved = (): Worth => reading(folder, (tables) => worthOf(KNIGHT, tables));

describe('a proof in bounds', { timeout: 240_000 }, () => {
  beforeAll(async () => {
    for (const into of [exactFolder, folder, shortFolder])
      await buildEndings(FILES, { ...proving(), folder: into, pieces: 3 });
    const all = (await reachOf([slice()], exactFolder, 2))!;
    await proveSlices(FILES, all, { ...proving(), folder: exactFolder });
  }, 240_000);

  it('keeps what is known when it is stopped, and goes on behind it', async () => {
    expect(proved()).toMatchObject({ least: 'loss', most: 'win' });
    const stop = new AbortController();
    let told = 0;
    const running = proveAs(await inBounds(), KNIGHT, FILES, {
      ...proving(stop.signal),
      onProgress: () => {
        if (++told === 4) stop.abort(new Error('stopped'));
      },
    });
    await expect(running).rejects.toThrow('stopped');
    expect(existsSync(proofFile(folder, slice().key))).toBe(true);
    // nothing is written half
    expect(readdirSync(folder).filter((name) => /\.\d+$/.test(name))).toEqual([]);
    const shares: number[] = [];
    await proveAs(await inBounds(), KNIGHT, FILES, {
      ...proving(),
      onProgress: (share) => void shares.push(share),
    });
    expect(shares.every((share, at) => share <= 1 && share >= (shares[at - 1] ?? 0))).toBe(true);
    expect(proved().least).toBe(proved().most);
  });

  it('never says what is not so, of any position it says something of', async () => {
    const short = { ...proving(), folder: shortFolder, budget: 0 };
    await proveAs(await inBounds(shortFolder), KNIGHT, FILES, short);
    const shareOf = (from: string): number =>
      reading(from, (tables) =>
        reading(exactFolder, (exact) => {
          let certain = 0;
          let checked = 0;
          for (const one of [slice(), slice(BEHIND)])
            for (const toMove of [0, 1] as const)
              for (let number = 0; number < sizeOf(one); number += 13) {
                const place = { slice: one, number, toMove };
                const value = exact.look(place);
                const bounds = tables.bounds(place);
                if (value === null || value === 255 || !bounds) continue;
                const { result } = readValue(value);
                checked++;
                if (isBetter(bounds.least, result) || isBetter(result, bounds.most))
                  throw new Error(
                    `${one.key} ${number} ${toMove}: ${result}, not ${bounds.least}–${bounds.most}`,
                  );
                const said = tables.look(place);
                // a value is told only where both bounds are the same
                if (said !== null) expect(readValue(said).result).toBe(result);
                expect(said !== null).toBe(bounds.least === bounds.most);
                if (said !== null) certain++;
              }
          expect(checked).toBeGreaterThan(10_000);
          return certain / checked;
        }),
      );
    expect(shareOf(folder)).toBeGreaterThan(0.9);
    expect(shareOf(shortFolder)).toBeLessThan(0.9);
  });

  it('knows each first move, and how far a mate is at most', () => {
    const asked = (from: string) =>
      reading(from, (tables) =>
        Object.fromEntries(
          worthOfMoves(KNIGHT, tables).map(({ move, worth }) => [chess.code(move), worth]),
        ),
      );
    const exact = asked(exactFolder);
    const bounded = asked(folder);
    expect(Object.keys(bounded).sort()).toEqual(Object.keys(exact).sort());
    for (const [move, worth] of Object.entries(bounded)) {
      expect([move, worth.least, worth.most]).toEqual([
        move,
        exact[move]!.least,
        exact[move]!.most,
      ]);
      expect(exact[move]!.isAtMost).toBe(false);
      if (worth.plies === null) continue;
      expect(worth.isAtMost).toBe(true);
      expect(worth.plies).toBeGreaterThanOrEqual(exact[move]!.plies!);
    }
  });

  it('is made anew where its file is damaged', async () => {
    writeFileSync(proofFile(folder, slice().key), 'nothing at all');
    expect(proved).toThrow(DamagedEnding);
    const again = proveAs(await inBounds(), KNIGHT, FILES, proving());
    await expect(again).rejects.toThrow(DamagedEnding);
    expect(proved()).toMatchObject({ least: 'loss', most: 'win' });
  });
});

describe('what a proof would take', () => {
  const plan = (fen: string, memory = GIGABYTES) =>
    planProof(chess.start(fen), exactFolder, 2, memory);

  it('is all that can be reached where that is little, and bounds where it is not', async () => {
    expect(await plan('8/1p6/4k3/4p3/4P3/1P2P3/4K3/8 w - - 0 1')).toMatchObject({ how: 'bounds' });
    const rooks = await plan('8/8/8/4k3/4P3/4K3/r7/7R w - - 0 1');
    expect(rooks).toMatchObject({ how: 'exact' });
    // foretold within the order of what it is
    expect(rooks!.reach.positions).toBeGreaterThan(1e9);
    expect(rooks!.seconds).toBeGreaterThan(60);
    expect(rooks!.reach.bytes).toBeLessThan(3.5e9);
  });

  it('is nothing where there is nothing to prove, or no end of it', async () => {
    // known
    expect(await plan('8/8/8/8/4k3/7p/1N6/K7 w - - 0 1')).toBeNull();
    expect(await plan('4k3/8/8/8/8/8/8/4K3 w - - 0 1')).toBeNull();
    // may still castle
    expect(await plan('4k3/8/8/8/8/8/4P3/4K2R w K - 0 1')).toBeNull();
    // four against four, and rooks with many pawns
    expect(await plan('4k3/pppp4/8/8/8/8/PPPP4/4K3 w - - 0 1')).toBeNull();
    expect(await plan('4k2r/1pp5/8/8/8/8/1PP5/R3K3 w - - 0 1')).toBeNull();
    // with too little memory neither
    expect(await plan('8/8/8/4k3/4P3/4K3/r7/7R w - - 0 1', 1e6)).toBeNull();
  });
});
