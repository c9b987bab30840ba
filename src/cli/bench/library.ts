import type { Page } from 'playwright-core';
import { eq, sql } from 'drizzle-orm';
import { chess } from '@/core/chess/ruleset';
import { CHOICE_NAMES, CHOICES, filterQuery, type GameFilter } from '@/contract/game-filter';
import { COLUMNS, orderText, STRETCH } from '@/contract/library';
import { SIDE_FIGURES } from '@/core/review/game-figures';
import { randomSource } from '@/engine/draw';
import { database } from '@/server/database';
import { games } from '@/server/schema';
import { changePlayer, listPlayers } from '@/server/players';
import { besideServer } from './browser';
import { report } from './figures';
import {
  asking,
  importPaces,
  megabytesOf,
  quantile,
  timed,
  withVisitor,
  type Visitor,
} from './server';
import { watchStolen } from './stolen';

const PLIES = 80;
/** Games of a file that comes in while others look at theirs. */
const BESIDE = 15_000;
const USUAL_GAMES = 100_000;
/** Different lines of moves among them. */
const LINES = 499;
const RIVALS = 307;
const USERS = 50;
const SECONDS = 20;
/** Milliseconds in which the database gets done with what came in. */
const REST = 60_000;

/** What a library of many generated games costs beside the server that is running: to take in, to look at, and to share the server with others. */
export const benchLibrary = (count = USUAL_GAMES): Promise<void> =>
  withVisitor(async (visitor, account, parts) => {
    const ask = asking(visitor);
    const lines = randomLines();
    const before = megabytesOf(parts);
    let most = before;
    const watch = setInterval(() => (most = Math.max(most, megabytesOf(parts))), 100);
    const paces = await importPaces(visitor, fileOf(lines, 0, count));
    clearInterval(watch);
    report(
      `import of ${count} games of ${PLIES} plies`,
      `${(1000 / paces.whole).toFixed(0)} games/s, a game ${paces.whole.toFixed(2)} ms`,
    );
    report('a game of the last tenth ÷ the first', `× ${(paces.last / paces.first).toFixed(2)}`);
    report('memory of the worker', `${before} MB before, ${most} MB at most`);
    await fillFigures(account.id);
    const self = (await listPlayers(account)).find(({ name: known }) => known === OWN_NAME)!;
    await changePlayer(account, self.id, { isSelf: true, join: [] });
    await views(ask, count);
    await new Promise((resolve) => setTimeout(resolve, REST));
    await scrolling(visitor);
    await crowd(visitor, lines);
  });

const OWN_NAME = 'Mirela Tanase';
/** Lines of random legal moves, as PGN has them. */
function randomLines(): string[] {
  const random = randomSource(1);
  return Array.from({ length: LINES }, () => {
    let position = chess.start();
    const words: string[] = [];
    for (let ply = 0; ply < PLIES; ply++) {
      const moves = chess.moves(position);
      if (moves.length === 0) break;
      const move = moves[Math.floor(random() * moves.length)]!;
      if (ply % 2 === 0) words.push(`${ply / 2 + 1}.`);
      words.push(chess.text(position, move));
      position = chess.play(position, move);
    }
    return words.join(' ');
  });
}

/** Games that are written at once: a file is longer than a string may be. */
const PART = 10_000;

function fileOf(lines: readonly string[], from: number, count: number): Blob {
  const parts: string[] = [];
  for (let done = 0; done < count; done += PART)
    parts.push(gamesOf(lines, from + done, Math.min(PART, count - done)));
  return new Blob(parts);
}

function gamesOf(lines: readonly string[], from: number, count: number): string {
  return Array.from({ length: count }, (_, index) => {
    const game = from + index;
    const rival = `Rival ${(game * 7919) % RIVALS}`;
    const [white, black] = game % 2 === 0 ? [OWN_NAME, rival] : [rival, OWN_NAME];
    const result = ['1-0', '0-1', '1/2-1/2'][game % 3]!;
    const date = `${2005 + (game % 20)}.${pad(1 + (Math.floor(game / 20) % 12))}.${pad(1 + (Math.floor(game / 240) % 28))}`;
    const tags = {
      Event: `Event ${game % 997}`,
      Date: date,
      Round: `${game}`,
      White: white,
      Black: black,
      Result: result,
      WhiteElo: `${1400 + ((game * 31) % 900)}`,
      BlackElo: `${1400 + ((game * 17) % 900)}`,
      TimeControl: ['180+2', '900+10', '5400+30'][game % 3]!,
    };
    const head = Object.entries(tags).map(([tag, value]) => `[${tag} "${value}"]`);
    return `${head.join('\n')}\n\n${lines[game % lines.length]} ${result}\n\n`;
  }).join('');
}

const pad = (number: number): string => String(number).padStart(2, '0');

/** Half of the games are given figures as a sweep would leave them. */
async function fillFigures(ownerId: string): Promise<void> {
  const random = sql.raw(`array[${SIDE_FIGURES.map(() => 'random() * 100').join(', ')}]`);
  await database()
    .update(games)
    .set({
      trend: 'turned',
      turningPoints: sql`random() * 5`,
      depth: sql`10 + random() * 5`,
      firstFigures: sql`${random}::real[]`,
      secondFigures: sql`${random}::real[]`,
    })
    .where(sql`${eq(games.ownerId, ownerId)} and ${games.id} % 2 = 0`);
  // what the database would set to rights by itself, beside what is measured
  await database().execute(sql`vacuum analyze games`);
}

const FILTERS: readonly GameFilter[] = [
  {},
  ...CHOICE_NAMES.map((name) => ({ [name]: CHOICES[name][0] })),
  { accuracy: '40..60' },
  { text: 'rival 12 event' },
  { date: '2015..2018' },
  { outcome: 'lost', peak: '80..' },
];

const viewQuery = (filter: GameFilter, sort: string, from: number): string =>
  `/api/games?${filterQuery(filter)}&sort=${sort}&from=${from}&count=${STRETCH}`;

/** Every order and every filter, at the beginning and deep in the list. */
async function views(ask: (path: string) => Promise<Response>, count: number): Promise<void> {
  const asked = [
    ...COLUMNS.flatMap((by) =>
      (['up', 'down'] as const).map((way) => viewQuery({}, orderText({ by, way }), 0)),
    ),
    ...COLUMNS.map((by) => viewQuery({}, orderText({ by, way: 'down' }), Math.floor(count * 0.6))),
    ...FILTERS.flatMap((filter) =>
      ['-date', 'accuracy', 'players'].map((sort) => viewQuery(filter, sort, 0)),
    ),
  ];
  for (const path of asked.slice(0, 5)) await timed(() => ask(path));
  const times: number[] = [];
  for (const path of asked) times.push(await timed(() => ask(path)));
  report(
    `a view of ${count} games, ${asked.length} orders and filters`,
    `p50 ${quantile(times, 0.5).toFixed(0)} ms, p95 ${quantile(times, 0.95).toFixed(0)} ms, the slowest ${Math.max(...times).toFixed(0)} ms`,
  );
  const pages: number[] = [];
  for (const filter of FILTERS) pages.push(await timed(() => ask(`/?${filterQuery(filter)}`)));
  report(
    'the page itself, with its figures',
    `p50 ${quantile(pages, 0.5).toFixed(0)} ms, p95 ${quantile(pages, 0.95).toFixed(0)} ms`,
  );
}

/** Milliseconds for which the list is moved, and how often from the top. */
const SCROLL = { time: 5000, rounds: 5 };
/** Pixels by which it is moved in each frame: three screens a second, and nine. */
const SCROLL_STEPS = [40, 120] as const;

/** How many frames a second a browser shows while the list is scrolled without a pause, each time in a page that has not seen it. */
async function scrolling({ cookie }: Visitor): Promise<void> {
  const { server, browser } = await besideServer();
  try {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const [name, value] = cookie.split(/=(.*)/s);
    await context.addCookies([{ name: name!, value: value!, url: server }]);
    for (const step of SCROLL_STEPS) {
      const rounds: { shown: number; late: number }[] = [];
      const stolen = watchStolen();
      for (let round = 0; round < SCROLL.rounds; round++) {
        const page = await context.newPage();
        const gaps = await gapsOf(page, server, step);
        await page.close();
        const shown = (1000 * gaps.length) / SCROLL.time;
        rounds.push({ shown, late: quantile(gaps, 0.95) });
      }
      rounds.sort((a, b) => a.shown - b.shown);
      const middle = rounds[SCROLL.rounds >> 1]!;
      report(
        `scrolling, ${step} pixels a frame`,
        `${middle.shown.toFixed(0)} frames/s, 95 % of them within ${middle.late.toFixed(0)} ms; in ${SCROLL.rounds} rounds ${rounds[0]!.shown.toFixed(0)} to ${rounds.at(-1)!.shown.toFixed(0)}; ${stolen()}`,
      );
    }
  } finally {
    await browser.close();
  }
}

/** Milliseconds between the frames of a page that is scrolled. */
async function gapsOf(page: Page, server: string, step: number): Promise<number[]> {
  await page.goto(server);
  await page.locator('.games-table tbody tr[data-index]').first().waitFor();
  await page.waitForTimeout(1000);
  return page.evaluate(
    ({ step, time }) =>
      new Promise<number[]>((resolve) => {
        const found: number[] = [];
        let last = performance.now();
        const end = last + time;
        const next = (now: number): void => {
          found.push(now - last);
          last = now;
          window.scrollBy(0, step);
          if (now < end) requestAnimationFrame(next);
          else resolve(found);
        };
        requestAnimationFrame(next);
      }),
    { step, time: SCROLL.time },
  );
}

/** Users who look at the demo account's games, one view a second each, beside an import. */
async function crowd(owner: Visitor, lines: readonly string[]): Promise<void> {
  const { server } = owner;
  const visitors = await Promise.all(
    Array.from({ length: USERS }, async () => {
      const answer = await fetch(new URL('/api/account/demo', server), { method: 'POST' });
      return answer.headers.getSetCookie()[0]!.split(';')[0]!;
    }),
  );
  const times: number[] = [];
  let errors = 0;
  const stolen = watchStolen();
  const until = performance.now() + SECONDS * 1000;
  const importing = importPaces(owner, fileOf(lines, 10_000_000, BESIDE));
  await Promise.all(
    visitors.map(async (cookie, user) => {
      await new Promise((resolve) => setTimeout(resolve, (1000 * user) / USERS));
      for (let view = 0; performance.now() < until; view++) {
        const path = viewQuery(
          FILTERS[(user + view) % FILTERS.length]!,
          orderText({ by: COLUMNS[(user * 7 + view) % COLUMNS.length]!, way: 'down' }),
          0,
        );
        const started = performance.now();
        await timed(() => fetch(new URL(path, server), { headers: { cookie } })).then(
          (time) => times.push(time),
          () => errors++,
        );
        await new Promise((resolve) =>
          setTimeout(resolve, Math.max(0, 1000 - (performance.now() - started))),
        );
      }
    }),
  );
  const pace = await importing;
  report(
    `${USERS} users, a view a second each, beside an import`,
    `p95 ${quantile(times, 0.95).toFixed(0)} ms of ${times.length}, ${errors} errors; import ${(1000 / pace.whole).toFixed(0)} games/s; ${stolen()}`,
  );
}
