import { createWriteStream, existsSync } from 'node:fs';
import { mkdir, open, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { once } from 'node:events';
import { eq, sql } from 'drizzle-orm';
import { baseSchema } from '@/contract/bases';
import type { GameRecord } from '@/core/game/record';
import { GAME_KINDS, type GameKind, type Ruleset } from '@/core/game/ruleset';
import { mainLine } from '@/core/game/tree';
import { readGames, writeGame } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { rulesetOf } from '@/core/rulesets';
import { randomSource } from '@/engine/draw';
import { database } from '@/server/database';
import { recordOf } from '@/server/games';
import { bases } from '@/server/schema';
import { settings } from '@/server/settings';
import { report } from './figures';
import {
  asking,
  importPaces,
  megabytesOf,
  timed,
  times,
  toldTimes,
  withVisitor,
  type Times,
  type Visitor,
} from './server';
import { watchStolen } from './stolen';

const FORMATS = { chess: 'pgn', shogi: 'kif' } as const;
/** With what a game begins in them. */
const BEGINNINGS = { chess: '[Event ', shogi: '#KIF' };
const USUAL_GAMES = 100_000;
const PLIES = 80;
/** Half moves in which the same moves come up again and again. */
const KNOWN = 24;
/** Games of a file that is sent at once. */
const FILE_GAMES = 50_000;
/** Positions that are asked for, of games taken from the first file. */
const ASKED = 1500;
const SAMPLED = 3000;
const USERS = 50;
const SECONDS = 20;
/** A process that was asked nothing before has all to read. */
const ROUNDS = 3;

/** What a base of many generated games costs beside the server that is running: to fill, and to ask. A fifth as many games in shogi. */
export const benchBase = (games = USUAL_GAMES): Promise<void> =>
  withVisitor(async (visitor, _, parts) => {
    for (const kind of GAME_KINDS) {
      const count = kind === 'chess' ? games : Math.ceil(games / 5);
      await benchKind(visitor, parts, kind, count);
    }
  });

async function benchKind(
  visitor: Visitor,
  parts: readonly number[],
  kind: GameKind,
  count: number,
): Promise<void> {
  const files = await generatedFiles(kind, count);
  const before = await sizes();
  const base = await filled(visitor, parts, kind, files, count);
  const after = await sizes();
  report(
    `${kind}: bytes a game, of it the index`,
    `${((after.all - before.all) / count).toFixed(0)}, ${((after.blocks - before.blocks) / count).toFixed(0)}`,
  );
  await questions(visitor, base, kind, await sampled(files[0]!, kind));
}

/** Bytes of all that bases hold, and of what was played at positions among it. */
async function sizes(): Promise<{ all: number; blocks: number }> {
  await database().execute(sql`vacuum`);
  const { rows } = await database().execute<{ all: string; blocks: string }>(
    sql`select sum(pg_total_relation_size(oid)) as all, sum(pg_total_relation_size(oid)) filter (where relname like 'base_blocks%') as blocks
      from pg_class where relkind = 'r' and relname like 'base%'`,
  );
  return { all: Number(rows[0]!.all), blocks: Number(rows[0]!.blocks) };
}

/** Fills a base with files one after the other. */
async function filled(
  visitor: Visitor,
  parts: readonly number[],
  kind: GameKind,
  files: readonly string[],
  count: number,
): Promise<number> {
  const made = await fetch(new URL('/api/bases', visitor.server), {
    method: 'POST',
    headers: { cookie: visitor.cookie, 'content-type': 'application/json' },
    body: JSON.stringify({ name: `bench ${kind}`, kind, source: { from: 'files' } }),
  });
  const { id } = baseSchema.parse(await made.json());
  let most = megabytesOf(parts);
  const watch = setInterval(() => (most = Math.max(most, megabytesOf(parts))), 100);
  const stolen = watchStolen();
  const started = performance.now();
  const paces: number[] = [];
  for (const file of files) {
    const handle = await open(file);
    const { size } = await stat(file);
    const text = new Uint8Array(size);
    await handle.read(text, 0, size);
    await handle.close();
    const name = `bench.${FORMATS[kind]}`;
    paces.push((await importPaces(visitor, text, `name=${name}&base=${id}`)).whole);
  }
  await untilIndexed(id);
  clearInterval(watch);
  const seconds = (performance.now() - started) / 1000;
  report(
    `${kind}: ${count} games of ${PLIES} plies read, stored and sorted in`,
    `${(count / seconds).toFixed(0)} games/s; the last file ÷ the first × ${(paces.at(-1)! / paces[0]!).toFixed(2)}; worker ${most} MB at most; ${stolen()}`,
  );
  return id;
}

async function untilIndexed(id: number): Promise<void> {
  for (;;) {
    const [row] = await database().select().from(bases).where(eq(bases.id, id));
    if (row!.indexed >= row!.size) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

const USUAL = { rating: '1500..1800', years: '2010..2020', timeClass: 'blitz' };
const OTHER = { result: '1-0', rated: 'yes', fromStart: 'yes' };

/** How soon positions are answered, as players meet them. */
async function questions(
  visitor: Visitor,
  base: number,
  kind: GameKind,
  games: readonly string[][],
): Promise<void> {
  const ask = asking(visitor);
  const random = randomSource(2);
  const pathOf = (position: string, filter: Record<string, string> = {}): string =>
    `/api/bases/${base}/moves?${new URLSearchParams({ ...filter, position })}`;
  const pick = (from: number, to: number): string[] =>
    Array.from({ length: ASKED }, () => {
      const game = games[Math.floor(random() * games.length)]!;
      return game[Math.min(game.length - 1, from + Math.floor(random() * (to - from)))]!;
    });
  report(
    `${kind}: the first question, which reads the facts of all games`,
    `${(await timed(() => ask(pathOf(games[0]![0]!)))).toFixed(0)} ms`,
  );
  const tell = async (
    what: string,
    positions: readonly string[],
    filter?: Record<string, string>,
  ) => {
    const found: Times[] = [];
    for (const position of positions) found.push(await times(() => ask(pathOf(position, filter))));
    report(`${kind}: ${what}`, toldTimes(found));
  };
  const bare: Times[] = [];
  for (let count = 0; count < ASKED; count++) bare.push(await times(() => ask('/api/health')));
  report(`${kind}: beside them, that the server answers at all`, toldTimes(bare));
  const known = pick(0, KNOWN);
  await tell('positions of the first 12 moves, asked for the first time', known);
  await tell('the same once more', known);
  await tell('of a rating, years and time class', known, USUAL);
  await tell('of a result, rated, from the ordinary start', known, OTHER);
  await tell('positions deeper in', pick(KNOWN + 16, PLIES));

  for (let round = 0; round < ROUNDS; round++) {
    const found: Times[] = [];
    const stolen = watchStolen();
    const until = performance.now() + SECONDS * 1000;
    await Promise.all(
      Array.from({ length: USERS }, async (_, user) => {
        await new Promise((resolve) => setTimeout(resolve, (500 * user) / USERS));
        const game = games[((round * USERS + user) * 37) % games.length]!;
        for (let ply = 0; performance.now() < until; ply++) {
          const took = await times(() => ask(pathOf(game[ply % game.length]!)));
          found.push(took);
          await new Promise((resolve) => setTimeout(resolve, Math.max(0, 500 - took.whole)));
        }
      }),
    );
    report(
      `${kind}: ${USERS} users, each stepping twice a second, ${round === 0 ? 'at once' : `after ${round * SECONDS} s`}`,
      `${toldTimes(found)}; ${stolen()}`,
    );
  }
}

/** The positions of some games of a file. */
async function sampled(file: string, kind: GameKind): Promise<string[][]> {
  const ruleset = rulesetOf(kind);
  const handle = await open(file);
  const head = Buffer.alloc(4 * 1024 * 1024);
  const { bytesRead } = await handle.read(head, 0, head.length);
  await handle.close();
  const text = head.subarray(0, bytesRead).toString();
  const whole = text.slice(0, text.lastIndexOf(BEGINNINGS[kind]));
  const games: string[][] = [];
  for (const reading of readGames(whole, FORMATS[kind])) {
    if (!isRead(reading) || games.length >= SAMPLED) continue;
    let position = ruleset.start();
    const positions = [ruleset.write(position)];
    for (const { move } of mainLine(reading.record.tree)) {
      position = ruleset.play(position, move);
      positions.push(ruleset.write(position));
    }
    games.push(positions);
  }
  return games;
}

/** Files of generated games; those that were made by an earlier run serve again. */
async function generatedFiles(kind: GameKind, count: number): Promise<string[]> {
  const folder = join(settings().data, 'bench');
  await mkdir(folder, { recursive: true });
  const files: string[] = [];
  for (let from = 0; from < count; from += FILE_GAMES) {
    const games = Math.min(FILE_GAMES, count - from);
    const file = join(folder, `${kind}-${from}-${games}.txt`);
    if (!existsSync(file)) await generate(kind, from, games, file);
    files.push(file);
  }
  return files;
}

async function generate(kind: GameKind, from: number, games: number, file: string): Promise<void> {
  const ruleset = rulesetOf(kind);
  const random = randomSource(from + 1);
  const making = `${file}.making`;
  await rm(making, { force: true });
  const out = createWriteStream(making);
  for (let game = from; game < from + games; game++) {
    const record = recordFor(ruleset, game, randomMoves(ruleset, random));
    if (!out.write(`${writeGame(record, FORMATS[kind])}\n`)) await once(out, 'drain');
  }
  out.end();
  await once(out, 'finish');
  await rename(making, file);
}

/** Of the moves there are, the first in a fixed order come up most at the beginning of a game. */
function randomMoves(ruleset: Ruleset, random: () => number): string[] {
  let position = ruleset.start();
  const codes: string[] = [];
  for (let ply = 0; ply < PLIES; ply++) {
    const choices = ruleset.moves(position);
    if (choices.length === 0) break;
    const share = ply < KNOWN ? random() ** 4 : random();
    const move = choices[Math.floor(share * choices.length)]!;
    codes.push(ruleset.code(move));
    position = ruleset.play(position, move);
  }
  return codes;
}

const RESULTS = ['1-0', '0-1', '1/2-1/2'] as const;

function recordFor(ruleset: Ruleset, game: number, codes: readonly string[]): GameRecord {
  const tags = {
    Event: 'Bench',
    Round: game,
    White: `Player ${(game * 7919) % 5003}`,
    Black: `Player ${(game * 104_729) % 5003}`,
    WhiteElo: 1200 + ((game * 31) % 1000),
    BlackElo: 1200 + ((game * 17) % 1000),
    Date: `${2000 + ((game * 13) % 26)}.01.01`,
    TimeControl: ['180+2', '900+10', '5400+30'][game % 3]!,
    Rated: 'yes',
  };
  return recordOf({
    kind: ruleset.kind,
    start: ruleset.startText,
    nodes: [{ id: 0, parent: null, move: '' }, ...codes],
    tags: Object.entries(tags).map(([name, value]) => ({ name, value: String(value) })),
    result: RESULTS[(game * 7) % 3]!,
    endReason: null,
  });
}
