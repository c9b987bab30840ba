// Bundles what runs outside Next: the commands, the worker process and the engine's thread.
import { build } from 'esbuild';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));

// zod is part of every program: bundled, it loads as one file instead of a hundred
const { dependencies, devDependencies } = JSON.parse(readFileSync(`${root}package.json`, 'utf8'));
const external = Object.keys({ ...dependencies, ...devDependencies })
  .filter((name) => name !== 'zod')
  .flatMap((name) => [name, `${name}/*`]);

await build({
  absWorkingDir: root,
  entryPoints: {
    cli: 'src/cli/main.ts',
    web: 'src/cli/serve/web-processes.ts',
    worker: 'src/worker/main.ts',
    'engine-thread': 'src/engine/hosts/node-thread.ts',
    'ending-process': 'src/worker/ending-process.ts',
    'ending-thread': 'src/engine/hosts/ending-thread.ts',
    'import-thread': 'src/worker/import-thread.ts',
    'base-thread': 'src/worker/base-thread.ts',
  },
  outdir: 'dist',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  splitting: true,
  chunkNames: 'chunks/[name]-[hash]',
  platform: 'node',
  target: 'node20',
  format: 'esm',
  external,
  alias: { '@': './src' },
  sourcemap: 'linked',
  logLevel: 'warning',
});
