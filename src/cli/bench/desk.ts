import type { Browser, Page } from '@playwright/test';
import { GAME_KINDS, type GameKind, type Position } from '@/core/game/ruleset';
import { ROOT, TreeBuilder, type GameTree } from '@/core/game/tree';
import { formatsFor, writeGame } from '@/core/notation/formats';
import { rulesetOf } from '@/core/rulesets';
import { randomSource } from '@/engine/draw';
import { besideServer, demoVisitor, traceSchema } from './browser';
import { report } from './figures';

const NODES = 5000;
const MAIN_LINE = 160;
const LENGTH = 12;
const STEPS = 60;
const EDITS = 20;
const THINK_MS = 10_000;

/** A game of random moves with variations of some moves each, hundreds of them. */
function largeGame(kind: GameKind): GameTree {
  const ruleset = rulesetOf(kind);
  const random = randomSource(11);
  const tree = new TreeBuilder(kind, ruleset.startText);
  const positions: Position[] = [ruleset.start()];
  const grow = (from: number, plies: number): void => {
    let at = from;
    for (let ply = 0; ply < plies && tree.size < NODES; ply++) {
      const position = positions[at]!;
      const taken = tree.node(at).children.map((id) => tree.node(id).move);
      const free = ruleset.moves(position).filter((move) => !taken.includes(move));
      if (free.length === 0) return;
      const move = free[Math.floor(random() * free.length)]!;
      at = tree.add(at, move);
      positions.push(ruleset.play(position, move));
    }
  };
  grow(ROOT, MAIN_LINE);
  while (tree.size < NODES) grow(Math.floor(random() * tree.size), LENGTH);
  return tree.build();
}

/** Stepping, editing and live lines in a game of 5,000 moves: what keeps the page's own thread, and how long. */
export async function benchDesk(): Promise<void> {
  const { server, browser } = await besideServer();
  try {
    for (const kind of GAME_KINDS) {
      const tags = [{ name: 'Event', value: `Bench ${Date.now()}` }];
      const record = { tree: largeGame(kind), tags, result: '*', end: null } as const;
      const [format] = formatsFor(kind);
      const context = await demoVisitor(browser, server);
      const page = await context.newPage();
      const text = writeGame(record, format!);
      const id = await takeIn(page, server, `bench.${format}`, text);
      await page.goto(new URL(`/games/${id}`, server).href);
      await page.locator('.sheet-rows .move').first().waitFor();
      await page.waitForTimeout(1500);
      report(`${kind}, ${NODES} moves: ${STEPS} steps`, await tasks(browser, page, step(STEPS)));
      report(`${kind}, ${NODES} moves: ${EDITS} symbols`, await tasks(browser, page, edit(EDITS)));
      await page.getByLabel('Number of lines').selectOption('8');
      await page.getByRole('button', { name: 'Think' }).click();
      await page.locator('.lines-table tbody tr').nth(7).waitFor();
      const think = (): Promise<void> => page.waitForTimeout(THINK_MS);
      report(`${kind}, ${NODES} moves: 8 live lines, 10 s`, await tasks(browser, page, think));
      await context.request.delete(new URL(`/api/games/${id}`, server).href);
      await context.close();
    }
  } finally {
    await browser.close();
  }
}

async function takeIn(page: Page, server: string, name: string, text: string): Promise<number> {
  const queued = await page.request.post(new URL(`/api/imports?name=${name}`, server).href, {
    data: Buffer.from(text),
    headers: { 'content-type': 'application/octet-stream' },
  });
  const { id } = (await queued.json()) as { id: number };
  for (;;) {
    const answer = await page.request.get(new URL(`/api/imports/${id}`, server).href);
    const status = (await answer.json()) as { state: string; gameIds: number[] };
    if (status.state === 'done') return status.gameIds[0]!;
    await page.waitForTimeout(200);
  }
}

const press = (page: Page, key: string): Promise<void> => page.keyboard.press(key);

const step =
  (count: number) =>
  async (page: Page): Promise<void> => {
    for (let i = 0; i < count; i++) await press(page, 'ArrowRight');
  };

const edit =
  (count: number) =>
  async (page: Page): Promise<void> => {
    for (let i = 0; i < count; i++) {
      await press(page, i % 2 === 0 ? '!' : 'o');
      await page.waitForTimeout(60);
    }
  };

/** How long the tasks of the page's own thread took while something was done, without what other work took from it. */
async function tasks(
  browser: Browser,
  page: Page,
  act: (page: Page) => Promise<void>,
): Promise<string> {
  await browser.startTracing(page, {
    categories: ['devtools.timeline', 'disabled-by-default-devtools.timeline'],
  });
  await page.evaluate(() => document.dispatchEvent(new KeyboardEvent('keydown', { key: 'F13' })));
  await act(page);
  const { traceEvents } = traceSchema.parse(JSON.parse((await browser.stopTracing()).toString()));
  const main = traceEvents.find(({ args }) => args?.data?.type === 'keydown')?.tid;
  const times = traceEvents
    .filter(({ name, tid }) => name === 'RunTask' && tid === main)
    .map(({ tdur }) => tdur / 1000)
    .sort((a, b) => a - b);
  const long = times.filter((time) => time > 50).length;
  const over = times.filter((time) => time > 16).length;
  return `longest task ${(times.at(-1) ?? 0).toFixed(1)} ms; ${over} over 16 ms, ${long} over 50 ms`;
}
