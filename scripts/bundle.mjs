// Bundles what runs outside Next: the commands, the worker process and the engine's thread.
import { build } from 'esbuild';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));

await build({
  absWorkingDir: root,
  entryPoints: {
    cli: 'src/cli/main.ts',
    worker: 'src/worker/main.ts',
    'engine-thread': 'src/engine/hosts/node-thread.ts',
  },
  outdir: 'dist',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  splitting: true,
  chunkNames: 'chunks/[name]-[hash]',
  platform: 'node',
  target: 'node20',
  format: 'esm',
  packages: 'external',
  alias: { '@': './src' },
  sourcemap: 'linked',
  logLevel: 'warning',
});
