import type { Browser, BrowserContext, Page } from '@playwright/test';
import { besideServer, demoVisitor, traceSchema, type TraceEvent } from './browser';
import { report } from './figures';
import { GAME_KINDS } from '@/core/game/ruleset';

const RUNS = 7;
const STEPS = 120;

const middle = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

/** First view of a game page and the cost of a step, in headless Chromium against the running server. */
export async function benchPage(): Promise<void> {
  const { server, browser } = await besideServer();
  try {
    const page = await (await demoVisitor(browser, server)).newPage();
    for (const kind of GAME_KINDS) {
      await page.goto(`${server}?kind=${kind}`);
      const href = await longestGame(page);
      const address = new URL(href!, server).href;
      const views: number[] = [];
      for (let run = 0; run < RUNS; run++) {
        const fresh = await demoVisitor(browser, server);
        const view = await fresh.newPage();
        const started = performance.now();
        await view.goto(address, { waitUntil: 'commit' });
        await view.locator('.board .edge').waitFor();
        views.push(performance.now() - started);
        await fresh.close();
      }
      report(
        `${kind} game page, new visitor: board shown after`,
        `${Math.round(middle(views))} ms (median of ${RUNS})`,
      );
      const { chart, rest } = await scriptWeight(await demoVisitor(browser, server), address);
      report(
        `${kind} game page: scripts, compressed`,
        `${Math.round(rest / 1024)} KB at first, ${Math.round(chart / 1024)} KB with the chart once the page is idle`,
      );
      await page.goto(address);
      await page.locator('.step-buttons button').first().waitFor();
      await page.waitForTimeout(500);
      report(`${kind} game page: a step`, await costOfSteps(browser, page));
    }
  } finally {
    await browser.close();
  }
}

/** Bytes of script that a new visitor's page is sent: those of the chart, and all others. */
async function scriptWeight(
  context: BrowserContext,
  address: string,
): Promise<{ chart: number; rest: number }> {
  const page = await context.newPage();
  const weights: Promise<{ isChart: boolean; bytes: number }>[] = [];
  page.on('response', (response) => {
    if (response.request().resourceType() !== 'script') return;
    weights.push(
      Promise.all([response.text(), response.request().sizes()]).then(([text, sizes]) => ({
        isChart: text.includes('zrender') || text.includes('echarts'),
        bytes: sizes.responseBodySize,
      })),
    );
  });
  await page.goto(address, { waitUntil: 'networkidle' });
  const all = await Promise.all(weights);
  await context.close();
  const sum = (isChart: boolean): number =>
    all.filter((one) => one.isChart === isChart).reduce((total, { bytes }) => total + bytes, 0);
  return { chart: sum(true), rest: sum(false) };
}

/** The address of the game with most moves on the list that is shown. */
const longestGame = (page: Page): Promise<string | null> =>
  page.locator('.games-table tbody tr').evaluateAll((rows) => {
    const moves = (row: Element): number => Number(row.lastElementChild?.textContent);
    const [longest] = [...rows].sort((a, b) => moves(b) - moves(a));
    return longest?.querySelector('a')?.getAttribute('href') ?? null;
  });

/**
 * Steps through a game by key and measures the time that each keeps the page's own thread (without what other work
 * on the machine takes from it), and whether a frame was missed.
 */
async function costOfSteps(browser: Browser, page: Page): Promise<string> {
  await browser.startTracing(page, { categories: ['devtools.timeline'] });
  const frames = await page.evaluate(async (steps) => {
    const frameTimes: number[] = [];
    const frame = (): Promise<number> => new Promise((done) => requestAnimationFrame(done));
    let last = await frame();
    for (let step = 0; step < steps; step++) {
      for (const type of ['keydown', 'keyup'])
        document.dispatchEvent(
          new KeyboardEvent(type, { key: 'ArrowRight', code: 'ArrowRight', bubbles: true }),
        );
      // React renders and runs its effects in the microtasks that the key sets off
      for (let i = 0; i < 20; i++) await Promise.resolve();
      const now = await frame();
      frameTimes.push(now - last);
      last = now;
    }
    return frameTimes;
  }, STEPS);
  const { traceEvents } = traceSchema.parse(JSON.parse((await browser.stopTracing()).toString()));
  const isWithin = (inner: TraceEvent, outer: TraceEvent): boolean =>
    inner.tid === outer.tid && inner.ts >= outer.ts && inner.ts <= outer.ts + outer.dur;
  const keys = traceEvents.filter(({ args }) => args?.data?.type === 'keydown');
  const tasks = traceEvents.filter(({ name }) => TASKS.has(name));
  const steps = tasks.filter(
    (task) => task.name === 'FireAnimationFrame' && keys.some((key) => isWithin(key, task)),
  );
  // what follows a step without holding it up comes in slices, each a task of its own
  const slices = traceEvents.filter(
    (event) =>
      event.name === 'FunctionCall' &&
      event.tid === steps[0]?.tid &&
      !tasks.some((task) => isWithin(event, task)),
  );
  const times = inOrder(steps);
  const sliced = inOrder(slices);
  const late = frames.filter((time) => time > 25).length;
  const over = [...times, ...sliced].filter((time) => time > 8).length;
  return `script ${middle(times).toFixed(1)} ms median, ${times[Math.floor(times.length * 0.95)]!.toFixed(1)} ms at 95 %, what follows in slices of at most ${sliced.at(-1)?.toFixed(1) ?? '0'} ms; ${over} of ${times.length} over 8 ms; ${late} frames late`;
}

/** Tasks of a page's own thread that run script, apart from plain calls. */
const TASKS = new Set(['FireAnimationFrame', 'TimerFire', 'EventDispatch']);

/** How long the thread itself ran, in milliseconds, the shortest first. */
const inOrder = (events: readonly TraceEvent[]): number[] =>
  events.map(({ tdur }) => tdur / 1000).sort((a, b) => a - b);
