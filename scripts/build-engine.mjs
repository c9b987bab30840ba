// Compiles the search for each game to dist/engine/<game>.wasm, with a build for threads and a checked one beside it; asked for `tuning`, only
// builds whose margins can be set from outside.
import { copyFileSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { basename, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import asc from 'assemblyscript/asc';
import binaryen from 'assemblyscript/binaryen';

const root = fileURLToPath(new URL('..', import.meta.url));
const sources = join(root, 'src/engine');
const weights = join(root, 'src/engine/weights');
const target = join(root, 'dist/engine');
mkdirSync(target, { recursive: true });

/**
 * Puts arrays at addresses that are known when compiling, which saves a load for each access: about a third of the
 * time. Sound where accesses are not checked, since nothing reads an array's header then, and on one thread only, since
 * threads that share their memory would share their arrays too.
 */
const fixed = (source) =>
  source.replace(
    /(= )new StaticArray<(\w+)>\(([^;]*)\);/g,
    (_, equals, type, length) =>
      `${equals}changetype<StaticArray<${type}>>(memory.data(sizeof<${type}>() * (${length}), 16));`,
  );

/** A custom section of a module: the weights travel with the search that they belong to. */
function section(name, file) {
  const path = join(weights, file);
  if (!existsSync(path)) return Buffer.alloc(0);
  const label = Buffer.from(name);
  const body = Buffer.concat([leb128(label.length), label, readFileSync(path)]);
  return Buffer.concat([Buffer.of(0), leb128(body.length), body]);
}

/** An unsigned number as WebAssembly writes it. */
function leb128(number) {
  const bytes = [];
  for (; number > 127; number >>>= 7) bytes.push((number & 127) | 128);
  return Buffer.from([...bytes, number]);
}

const FEATURES = [
  'Atomics',
  'MutableGlobals',
  'NontrappingFPToInt',
  'SIMD128',
  'BulkMemory',
  'BulkMemoryOpt',
  'SignExt',
].reduce((all, name) => all | binaryen.Features[name], 0);

/** Puts far more functions in place of their calls than the compiler does by itself: a tenth of the time. */
function inlined(contents) {
  const search = binaryen.readBinary(contents);
  search.setFeatures(FEATURES);
  binaryen.setOptimizeLevel(4);
  binaryen.setShrinkLevel(0);
  binaryen.setAlwaysInlineMaxSize(300);
  binaryen.setFlexibleInlineMaxSize(800);
  binaryen.setOneCallerInlineMaxSize(20_000);
  binaryen.setAllowInliningFunctionsWithLoops(false);
  search.optimize();
  const faster = search.emitBinary();
  search.dispose();
  return faster;
}

const SIMD = ['--enable', 'simd'];
const MODES = {
  /** What the app runs on one thread. */
  '': ['-O3', '--uncheckedBehavior', 'always', '--noAssert', ...SIMD],
  /** For several threads that share their memory. */
  '.shared': [
    ...['-O3', '--uncheckedBehavior', 'always', '--noAssert', '--importMemory', '--sharedMemory'],
    ...['--enable', 'simd', '--enable', 'threads', '--initialMemory', '16'],
  ],
  /** Every access checked, for tests. */
  '.checked': ['--debug', '--uncheckedBehavior', 'never', ...SIMD],
};
/** As on one thread, but that its margins are variables. */
const TUNING = '.tuning';
const optionsOf = (mode) => MODES[mode === TUNING ? '' : mode];

/** What margins are in a build for tuning: exported, with what has to be done when they have changed. */
const tunable = (file, source) =>
  file === 'index.ts'
    ? `${source}export * from './margins';\nexport { initSearch } from './search';\n`
    : source.replace(/^export const ([A-Z_]+: i32 =)/gm, 'export let $1');

/** What is written once for both games: its `search/rules` and others are those of the game that is being built. */
async function build(folder, game, name, mode) {
  const { error, stderr } = await asc.main(
    [
      `${folder}/index.ts`,
      ...['--runtime', 'stub', '--maximumMemory', '16384'],
      ...['--outFile', `${name}${mode}.wasm`],
      ...optionsOf(mode),
    ],
    {
      readFile(file) {
        const path = join(sources, file);
        const wanted = relative(sources, path);
        if (wanted === 'search/rules.ts') return `export * from './${game}/rules';`;
        if (wanted === 'search/margins.ts') return `export * from './${game}/margins';`;
        if (wanted === 'search/position-evaluation.ts')
          return `export * from './${game}/evaluation';`;
        try {
          const source = readFileSync(path, 'utf8');
          if (mode === TUNING && /search\/(index|\w+\/margins)\.ts$/.test(wanted))
            return tunable(basename(wanted), source);
          return mode === '' || mode === TUNING ? fixed(source) : source;
        } catch {
          return null;
        }
      },
      writeFile: (file, contents) =>
        writeFileSync(
          join(target, file),
          Buffer.concat([
            mode === '.checked' ? contents : inlined(contents),
            ...(folder === 'search'
              ? [section('terms', `${game}-terms.json`), section('network', `${game}-network.bin`)]
              : []),
          ]),
        ),
      listFiles: () => [],
    },
  );
  if (error) throw new Error(`${name}${mode}: ${error.message}\n${stderr.toString()}`);
}

const GAMES = ['chess', 'shogi'];
if (process.argv.includes('tuning')) {
  for (const game of GAMES) await build('search', game, game, TUNING);
  process.exit();
}
for (const game of GAMES) {
  for (const mode of Object.keys(MODES)) await build('search', game, game, mode);
  await build('mates', game, `${game}-mates`, '');
}

/** Compiles a module of a folder of its own. */
async function buildModule(folder, entry, name) {
  const place = join(root, 'src/engine', folder);
  const { error, stderr } = await asc.main(
    [entry, ...['--runtime', 'stub', '--maximumMemory', '65536'], '--outFile', name, ...MODES['']],
    {
      readFile(file) {
        try {
          return readFileSync(join(place, file), 'utf8');
        } catch {
          return null;
        }
      },
      writeFile: (file, contents) => writeFileSync(join(target, file), contents),
      listFiles: () => [],
    },
  );
  if (error) throw new Error(`${folder}: ${error.message}\n${stderr.toString()}`);
}

await buildModule('training', 'pass.ts', 'training.wasm');
await buildModule('endings', 'solver.ts', 'endings.wasm');
copyFileSync(join(sources, 'endings/results.bin'), join(target, 'ending-results.bin'));
