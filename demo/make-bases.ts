// Plays the games of the demo bases anew: ./bektra demo bases. The same every time: every choice comes from a fixed seed.
import { existsSync } from 'node:fs';
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { tagNameOf } from '@/core/game/info';
import type { GameRecord, Tag } from '@/core/game/record';
import { ROOT, TreeBuilder } from '@/core/game/tree';
import { separatorOf, writeGame } from '@/core/notation/formats';
import { rulesetOf } from '@/core/rulesets';
import { randomSource } from '@/engine/draw';
import { loadSearch } from '@/engine/hosts/node';
import type { SearchModule } from '@/engine/search-module';
import { playGame } from '@/engine/self-play';
import { BASES, baseFile, baseFormat, type DemoBase } from './base-scenario';
import { openingTree, walkOpening, type OpeningNode } from './opening-tree';
import { thinkingTimes } from './thinking-times';

/** Games that are written at a time, so that an interrupted run goes on behind them. */
const PART = 50;
const TEMPERATURE = 24;

/** Plays all games of the bases and writes them to demo/bases, packed; parts of them are kept in a folder meanwhile. */
export async function makeDemoBases(root: string, parts: string, only?: string): Promise<void> {
  await mkdir(parts, { recursive: true });
  await mkdir(join(root, 'demo/bases'), { recursive: true });
  for (const base of BASES) {
    if (only !== undefined && base.file !== only) continue;
    const search = await loadSearch({ modules: join(root, 'dist/engine') }, base.kind, {
      table: 1,
    });
    const format = baseFormat(base);
    const tree = openingTree(base.kind);
    const texts: string[] = [];
    for (let from = 0; from < base.games; from += PART) {
      const part = join(parts, `${base.file}-${from}`);
      if (!existsSync(part)) {
        const games = Array.from({ length: Math.min(PART, base.games - from) }, (_, index) =>
          writeGame(makeGame(base, from + index, search, tree), format),
        );
        await writeFile(`${part}.making`, games.join(separatorOf(format)));
        await rename(`${part}.making`, part);
        process.stdout.write(`${base.file}: ${from + games.length} of ${base.games} games\n`);
      }
      texts.push(await readFile(part, 'utf8'));
    }
    const packed = gzipSync(texts.join(separatorOf(format)), { level: 9 });
    await writeFile(join(root, 'demo/bases', baseFile(base)), packed);
  }
}

function makeGame(
  base: DemoBase,
  game: number,
  search: SearchModule,
  tree: OpeningNode,
): GameRecord {
  const random = randomSource(1_000_003 * (BASES.indexOf(base) + 1) + game);
  const ruleset = rulesetOf(base.kind);
  const pick = <T>(values: readonly T[]): T => values[Math.floor(random() * values.length)]!;
  const year =
    base.years[0] + Math.floor((game / base.games) * (base.years[1] - base.years[0] + 1));
  const first = pick(base.players);
  const second = pick(base.players.filter((one) => one !== first));
  // who is met most is about as strong
  const ratings = [first, second].map(({ rating }) => rating + Math.round(40 * (random() - 0.5)));
  const control = pick(base.controls);
  const times = thinkingTimes(control, 400, random);
  const played = playGame(ruleset, search, {
    start: ruleset.startText,
    opening: walkOpening(tree, base.level, year, random),
    levelAt: (side, ply) => ({
      nodes: Math.round(
        (base.nodes * 1.5 ** ((ratings[side]! - base.rating) / 100)) / (times[ply]! < 3 ? 6 : 1),
      ),
      temperature: TEMPERATURE,
    }),
    random,
  });
  const built = new TreeBuilder(base.kind, ruleset.startText);
  const left = [control.base, control.base];
  let node = ROOT;
  played.moves.forEach(({ move }, ply) => {
    const side = ply % 2;
    node = built.add(node, move);
    left[side] = Math.max(0, left[side]! - times[ply]!) + control.increment;
    if (base.kind === 'chess') built.node(node).clock = left[side]! * 1000;
    else built.node(node).spent = times[ply]! * 1000;
  });
  const month = 1 + Math.floor(random() * 12);
  const day = 1 + Math.floor(random() * 28);
  const two = (number: number): string => String(number).padStart(2, '0');
  const tags: Tag[] = [
    { name: 'Event', value: `${pick(base.events)} ${year}` },
    { name: 'Date', value: `${year}.${two(month)}.${two(day)}` },
    { name: 'Round', value: String(1 + (game % 9)) },
    ...[first, second].flatMap(({ name }, side) => {
      const of = tagNameOf(ruleset.sides[side as 0 | 1]);
      return [
        { name: of, value: name },
        { name: `${of}Elo`, value: String(ratings[side]) },
      ];
    }),
    { name: 'TimeControl', value: control.text },
    { name: 'Rated', value: 'yes' },
  ];
  return {
    tree: built.build(),
    tags,
    result: played.result,
    end: base.kind === 'shogi' ? played.end : null,
  };
}
