import { spawn } from 'node:child_process';
import {
  chmodSync,
  cpSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';

/** A checkout in which nothing is installed, whose installers note that they ran and take their time. */
const folder = mkdtempSync(join(tmpdir(), 'bektra-setup-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const file = (path: string, text: string): void => {
  mkdirSync(join(folder, path, '..'), { recursive: true });
  writeFileSync(join(folder, path), text);
};
cpSync(resolve('bektra'), join(folder, 'bektra'));
for (const path of [
  'src/engine/search',
  'src/engine/training',
  'src/engine/endings',
  'src/engine/mates',
  'src/engine/weights',
  'messages',
])
  mkdirSync(join(folder, path), { recursive: true });
for (const path of ['demo/make-games.ts', 'demo/scenario.ts', 'package-lock.json'])
  file(path, '{}');
const note = (name: string): string =>
  `require('fs').appendFileSync(process.env.BEKTRA_ROOT + '/ran', '${name}\\n');`;
const program = (name: string, made: string): string =>
  `import { createRequire } from 'node:module';
const require = createRequire(import.meta.url);
${note(name)}
require('fs').mkdirSync(process.env.BEKTRA_ROOT + '/dist/engine', { recursive: true });
require('fs').writeFileSync(process.env.BEKTRA_ROOT + '/dist/${made}', 'console.log("ran")');
`;
file('scripts/build-engine.mjs', program('engine', 'engine/made'));
file('scripts/bundle.mjs', program('bundle', 'cli.mjs'));
file(
  'bin/npm',
  `#!/bin/sh\nsleep 1\nmkdir -p "$BEKTRA_ROOT/node_modules"\nprintf 'npm\\n' >>"$BEKTRA_ROOT/ran"\n`,
);
chmodSync(join(folder, 'bin/npm'), 0o755);

const run = (): Promise<{ code: number | null; out: string; err: string }> =>
  new Promise((done) => {
    const child = spawn(join(folder, 'bektra'), ['help'], {
      env: { ...process.env, PATH: `${join(folder, 'bin')}:${process.env.PATH}` },
    });
    let out = '';
    let err = '';
    child.stdout.on('data', (piece: Buffer) => (out += piece.toString()));
    child.stderr.on('data', (piece: Buffer) => (err += piece.toString()));
    child.on('close', (code) => done({ code, out, err }));
  });

describe('commands in a fresh checkout', () => {
  it('take turns: one installs and builds, the others wait, say so, and find all done', async () => {
    const outcomes = await Promise.all([run(), run(), run()]);
    for (const { code, out } of outcomes) expect({ code, out }).toEqual({ code: 0, out: 'ran\n' });
    expect(readFileSync(join(folder, 'ran'), 'utf8')).toBe('npm\nengine\nbundle\n');
    const waited = outcomes.filter(({ err }) => err.includes('waiting for it'));
    expect(waited).toHaveLength(2);
  });

  it('do nothing of it again', async () => {
    expect(await run()).toEqual({ code: 0, out: 'ran\n', err: '' });
  });
});
