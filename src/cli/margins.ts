import { existsSync } from 'node:fs';
import { readFile, rename, writeFile } from 'node:fs/promises';
import * as z from 'zod';
import { GAME_KINDS, type GameKind } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import type { Engine } from '@/engine/contract';
import { randomSource } from '@/engine/draw';
import { searchOf } from '@/engine/hosts/node';
import { afterTrial, beginSearch, drawTrial, type MarginSearch } from '@/engine/learning/margins';
import { drawOpening } from '@/engine/learning/samples';
import { playMatchGame, type Player } from '@/engine/match/match';
import { UNTIMED, type SearchModule } from '@/engine/search-module';
import { ENGINE_FILES } from './engine-files';
import { CommandError, EXIT, usageError } from './exit';
import type { Options } from './options';
import { print } from './print';

const NODES = 20_000;
const TABLE_MEGABYTES = 8;
const OPENING_PLIES = 8;
const USUAL_GAMES = 2000;

const searchSchema = z.object({
  kind: z.enum(GAME_KINDS),
  pairs: z.int().nonnegative(),
  from: z.record(z.string(), z.number()),
  values: z.record(z.string(), z.number()),
});

/** `margins`: tunes those of the search by games of it against itself; goes on where an earlier run stopped. */
export async function tuneMargins(
  kind: string | undefined,
  file: string | undefined,
  { games = USUAL_GAMES, nodes = NODES, seed = 1, time }: Options,
): Promise<number> {
  if ((kind !== 'chess' && kind !== 'shogi') || file === undefined)
    throw usageError(
      './bektra margins chess|shogi FILE [--games N] [--nodes N] [--seed N] [--time SECONDS]',
    );
  const known = existsSync(file) ? await readSearch(file, kind) : null;
  const path = `${ENGINE_FILES.modules}/${kind}.tuning.wasm`;
  if (!existsSync(path))
    throw new CommandError(
      'First build what can be tuned: node scripts/build-engine.mjs tuning',
      EXIT.problems,
    );
  const [one, other] = [
    await searchOf(kind, path, TABLE_MEGABYTES),
    await searchOf(kind, path, TABLE_MEGABYTES),
  ];
  const until = performance.now() + (time ?? Infinity) * 1000;
  let search = known ?? beginSearch(one.margins());
  if (namesOf(search.values) !== namesOf(one.margins()))
    throw otherFile(`${file} is of a search with other margins.`);
  while (2 * search.pairs < games && performance.now() < until) {
    const random = randomSource(seed * 1_000_003 + search.pairs);
    const trial = drawTrial(search, random);
    one.setMargins(trial.plus);
    other.setMargins(trial.minus);
    search = afterTrial(search, trial, await pairWon(kind, [one, other], nodes, random));
    await writeFile(`${file}.new`, JSON.stringify({ kind, ...search }));
    await rename(`${file}.new`, file);
  }
  print(`after ${2 * search.pairs} games`);
  for (const [name, value] of Object.entries(search.values))
    print(`${name} ${search.from[name]} → ${value.toFixed(1)}`);
  return EXIT.done;
}

const otherFile = (what: string): CommandError =>
  new CommandError(`${what} Name another file to begin anew.`, EXIT.problems);

const namesOf = (margins: Readonly<Record<string, number>>): string =>
  Object.keys(margins).sort().join(' ');

/** How far an earlier run came. */
async function readSearch(file: string, kind: GameKind): Promise<MarginSearch> {
  const text = await readFile(file, 'utf8');
  const read = searchSchema.safeParse(parsed(text));
  if (!read.success) throw otherFile(`${file} is none that ./bektra margins has written.`);
  const { kind: own, ...search } = read.data;
  if (own !== kind) throw otherFile(`${file} is of ${own}.`);
  return search;
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

/** Plays two games from an opening, with colours changed; what the first won less what it lost. */
async function pairWon(
  kind: GameKind,
  modules: readonly [SearchModule, SearchModule],
  nodes: number,
  random: () => number,
): Promise<number> {
  const ruleset = rulesetOf(kind);
  const { codes } = drawOpening(ruleset, modules[0], random, OPENING_PLIES);
  const [one, other] = modules.map((module): Player => ({
    engine: {
      search: (question) => Promise.resolve(module.search(question, UNTIMED)),
      close: () => undefined,
    } satisfies Engine,
    budget: { nodes },
  })) as [Player, Player];
  const first = await playMatchGame(ruleset, [one, other], codes);
  const second = 1 - (await playMatchGame(ruleset, [other, one], codes));
  return 2 * (first + second - 1);
}
