// Compiles the search for each game to dist/engine/<game>.wasm, and a checked build beside it.
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import asc from 'assemblyscript/asc';

const root = fileURLToPath(new URL('..', import.meta.url));
const sources = join(root, 'src/engine/search');
const target = join(root, 'dist/engine');
mkdirSync(target, { recursive: true });

/** The search is written once: its `./rules` is the rules of the game that is being built. */
async function build(game, mode) {
  const flags =
    mode === 'release'
      ? ['-O3', '--uncheckedBehavior', 'always', '--noAssert']
      : ['--debug', '--uncheckedBehavior', 'never'];
  const name = mode === 'release' ? game : `${game}.checked`;
  const { error, stderr } = await asc.main(
    [
      'index.ts',
      '--runtime',
      'stub',
      '--maximumMemory',
      '16384',
      '--outFile',
      `${name}.wasm`,
      ...flags,
    ],
    {
      readFile(file) {
        const path = join(sources, file);
        if (relative(sources, path) === 'rules.ts') return `export * from './${game}/rules';`;
        try {
          return readFileSync(path, 'utf8');
        } catch {
          return null;
        }
      },
      writeFile: (file, contents) => writeFileSync(join(target, file), contents),
      listFiles: () => [],
    },
  );
  if (error) throw new Error(`${game}: ${error.message}\n${stderr.toString()}`);
}

for (const game of ['chess', 'shogi'])
  for (const mode of ['release', 'checked']) await build(game, mode);
