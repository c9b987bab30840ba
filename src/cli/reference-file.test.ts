import { appendFileSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { ReferenceFile, type Reference } from './reference-file';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'references-'));
});
afterEach(() => rmSync(folder, { recursive: true }));

const found = (ply: number, engine: string): Reference => ({
  game: 0,
  ply,
  engine,
  best: { move: 'e2e4', score: { kind: 'cp', cp: 20 }, depth: 20 },
  played: null,
});

it('keeps of each position what was found last, and knows by which engine', async () => {
  const file = await ReferenceFile.open(folder, 'chess');
  await file.addGame({ ratings: [1500, 1500], moves: ['e2e4'], opening: 0 });
  for (const value of [found(0, 'old'), found(1, 'old'), found(0, 'new')])
    await file.addValue(value);
  for (const one of [file, await ReferenceFile.open(folder, 'chess')]) {
    expect(one.games).toHaveLength(1);
    expect(one.values).toEqual([found(0, 'new'), found(1, 'old')]);
    expect(one.isKnown(0, 0, 'new')).toBe(true);
    expect(one.isKnown(0, 0, 'old')).toBe(false);
    expect(one.isKnown(0, 1, 'new')).toBe(false);
  }
});

it('writes a line anew that was being written when a run was killed', async () => {
  await (await ReferenceFile.open(folder, 'shogi')).addValue(found(0, 'new'));
  const path = join(folder, 'shogi-values.jsonl');
  const before = readFileSync(path, 'utf8');
  appendFileSync(path, '{"game":0,"ply":1,"eng');
  const file = await ReferenceFile.open(folder, 'shogi');
  expect(file.values).toEqual([found(0, 'new')]);
  await file.addValue(found(1, 'new'));
  expect(readFileSync(path, 'utf8')).toBe(`${before}${JSON.stringify(found(1, 'new'))}\n`);
});
