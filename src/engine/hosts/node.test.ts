import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { expect, it } from 'vitest';
import { startEngine } from './node';

it('an engine whose thread ends is not waited for', async () => {
  const thread = join(mkdtempSync(join(tmpdir(), 'bektra-thread-')), 'thread.mjs');
  writeFileSync(thread, 'process.exit(3);\n');
  const starting = startEngine({ modules: resolve('dist/engine'), thread }, { kinds: ['chess'] });
  await expect(starting).rejects.toThrow('engine thread ended with 3');
});
