import { readFile } from 'node:fs/promises';
import { resolve } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { codesAlong, randomGame } from '../../../tests/support/random-positions';
import { rulesetOf } from '@/core/rulesets';
import { loadSearch } from '../hosts/node';
import { randomSource } from '../draw';
import {
  dequantised,
  evaluatePlainly,
  FEATURE_COUNT,
  mirroredFeature,
  quantised,
  see,
} from './network';
import { freshNetwork, SampleSet, Trainer } from './trainer';
import { GAME_KINDS } from '@/core/game/ruleset';

const FILES = { modules: resolve('dist/engine') };

describe('the network', () => {
  it.each(GAME_KINDS)('is computed by the search as it is defined: %s', async (kind) => {
    const ruleset = rulesetOf(kind);
    for (const checked of [false, true]) {
      const search = await loadSearch(FILES, kind, { table: 1, checked });
      const network = quantised(freshNetwork(kind, randomSource(3)));
      search.setNetwork(network);
      fc.assert(
        fc.property(randomGame(kind), (positions) => {
          const position = ruleset.write(positions.at(-1)!);
          expect(search.networkValue(position)).toBe(evaluatePlainly(kind, network, position) + 0);
        }),
        { numRuns: 60 },
      );
    }
  });

  it.each(GAME_KINDS)('is kept up to date move by move: %s', async (kind) => {
    const ruleset = rulesetOf(kind);
    const search = await loadSearch(FILES, kind, { table: 1, checked: true });
    search.setNetwork(quantised(freshNetwork(kind, randomSource(4))));
    fc.assert(
      fc.property(randomGame(kind), (positions) => {
        const last = positions.slice(-8);
        const codes = codesAlong(kind, last);
        expect(search.networkValueAfter(ruleset.write(last[0]!), codes)).toBe(
          search.networkValue(ruleset.write(positions.at(-1)!)),
        );
      }),
      { numRuns: 60 },
    );
  });

  it.each(GAME_KINDS)('sees a mirrored board by mirrored features: %s', (kind) => {
    for (let feature = 0; feature < FEATURE_COUNT[kind]; feature++)
      expect(mirroredFeature(kind, mirroredFeature(kind, feature))).toBe(feature);
    const [plain, mirrored] =
      kind === 'chess'
        ? ['8/8/8/2k5/8/5N2/8/4K3 w - - 0 1', '8/8/8/5k2/8/2N5/8/3K4 w - - 0 1']
        : ['4k4/9/9/9/9/9/9/7R1/3K5 b G2p 1', '4k4/9/9/9/9/9/9/1R7/5K3 b G2p 1'];
    const turned = see(kind, plain!).own.map((feature) => mirroredFeature(kind, feature));
    expect(turned.sort()).toEqual(see(kind, mirrored!).own.sort());
  });

  it.each(GAME_KINDS)('is trained further from whole numbers: %s', (kind) => {
    const network = quantised(freshNetwork(kind, randomSource(5)));
    expect(quantised(dequantised(kind, network))).toEqual(network);
    expect(() => dequantised(kind, network.slice(8))).toThrow('another game or size');
  });

  it('learns what its samples show', async () => {
    const random = randomSource(9);
    const set = new SampleSet('chess', 250, 0);
    // whoever has the pawn wins
    for (let i = 0; i < 400; i++) {
      const file = 2 + Math.floor(random() * 4);
      const row = `${file}${i % 2 ? 'P' : 'p'}${7 - file}`;
      const rows = ['k7', '8', '8', '8', '8', '8', '8', '7K'];
      rows[2 + Math.floor(random() * 4)] = row;
      set.add({ position: `${rows.join('/')} w - - 0 1`, score: 0, result: i % 2 });
    }
    const compiled = await WebAssembly.compile(
      new Uint8Array(await readFile(`${FILES.modules}/training.wasm`)),
    );
    const trainer = new Trainer(compiled, freshNetwork('chess', random), 250);
    const before = trainer.errorOf(set);
    trainer.train(set, { epochs: 30, batch: 64, rate: 0.003, decay: 0 }, random, () => {});
    expect(trainer.errorOf(set)).toBeLessThan(before / 10);
    // the whole numbers that the search uses tell the same
    const network = quantised(trainer.network);
    expect(evaluatePlainly('chess', network, 'k7/8/8/3P4/8/8/8/7K w - - 0 1')).toBeGreaterThan(200);
    expect(evaluatePlainly('chess', network, 'k7/8/8/3p4/8/8/8/7K w - - 0 1')).toBeLessThan(-200);
  });
});
