import { expect, test, type APIRequestContext, type Browser, type Page } from '@playwright/test';
import { kif, open, pgn, watchForErrors } from './support';

const PASSWORD = 'a long enough password';

/** A new account with some games in it, and who they are. */
async function library(browser: Browser, files: readonly [name: string, text: string][]) {
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  const name = `Librarian ${Date.now()}`;
  await context.request.post('/api/account', { data: { name, password: PASSWORD } });
  for (const [file, text] of files) await takeIn(context.request, file, text);
  return context;
}

async function takeIn(request: APIRequestContext, name: string, text: string): Promise<void> {
  const queued = await request.post(`/api/imports?name=${name}`, { data: Buffer.from(text) });
  const { id } = (await queued.json()) as { id: number };
  const state = async (): Promise<string> =>
    ((await (await request.get(`/api/imports/${id}`)).json()) as { state: string }).state;
  await expect.poll(state, { timeout: 30_000 }).toBe('done');
}

const rowsOf = (page: Page) => page.locator('.games-table tbody tr[data-index]');
const column = (page: Page, name: string) =>
  page.getByRole('columnheader', { name, exact: true }).getByRole('link');

const CHESS = [
  pgn('Club', '1. e4 e5 2. Qh5 Nc6 3. Bc4 Nf6 4. Qxf7# 1-0').replace(
    '[Result',
    '[Date "2025.03.01"]\n[WhiteElo "1800"]\n[Result',
  ),
  pgn('Autumn Cup', '1. f3 e5 2. g4 {a bad idea} Qh4# 0-1').replace(
    '[Result',
    '[Date "2026.05.02"]\n[WhiteElo "1850"]\n[Result',
  ),
].join('\n');
const SHOGI = kif('   1 ７六歩(77)\n   2 ３四歩(33)\n   3 投了\n').replace(
  '手合割',
  '開始日時：2026/06/01 19:30\n手合割',
);

const GAMES: readonly [name: string, text: string][] = [
  ['a.pgn', CHESS],
  ['b.kifu', SHOGI],
];

test('the library is filtered, ordered, laid out and kept as its owner likes it', async ({
  browser,
}) => {
  const context = await library(browser, GAMES);
  const page = await context.newPage();
  const errors = watchForErrors(page);
  // where the addresses of games begin is their list
  await open(page, '/games');
  await expect(page).toHaveURL('/');
  const rows = rowsOf(page);
  await expect(rows).toHaveCount(3);
  await page.getByRole('button', { name: 'Mirela Tanase' }).click();
  await expect(rows.filter({ hasText: 'won' })).toHaveCount(1);

  // by any column, either way
  await expect(rows.first()).toContainText('2026-06-01');
  await column(page, 'Players').click();
  await expect(page).toHaveURL(/sort=players/);
  await column(page, 'Date').click();
  await expect(page).not.toHaveURL(/sort=players/);
  await page.locator('th', { hasText: 'Date' }).getByRole('link').click();
  await expect(page).toHaveURL(/sort=date/);
  await expect(rows.first()).toContainText('2025-03-01');

  // other columns, in another order, remembered
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('checkbox', { name: 'My rating' }).check();
  await page.getByRole('checkbox', { name: 'Event' }).uncheck();
  const forward = page.getByRole('button', { name: 'Move My rating forward' });
  for (let place = 9; place > 0; place--) await forward.click();
  await expect(forward).toBeDisabled();
  await page.keyboard.press('Escape');
  await page.reload();
  await expect(page.getByRole('columnheader').nth(1)).toHaveText('My rating');
  await expect(page.getByRole('columnheader', { name: 'Event' })).toHaveCount(0);
  await column(page, 'My rating').click();
  await expect(rows.first()).toContainText('1850');
  // not known comes last either way
  await expect(rows.last()).toContainText('Aino');
  await page.locator('th', { hasText: 'My rating' }).getByRole('link').click();
  await expect(rows.first()).toContainText('1800');
  await expect(rows.last()).toContainText('Aino');

  // by what games are told apart by
  const form = page.getByRole('search');
  await form.getByText('More filters').click();
  await form.getByRole('group', { name: 'My rating' }).getByLabel('to').fill('1840');
  await form.getByRole('checkbox', { name: 'won' }).check();
  await form.getByRole('button', { name: 'Find' }).last().click();
  await expect(page).toHaveURL(/outcome=won&rating=..1840/);
  await expect(rows).toHaveCount(1);
  await expect(page.getByText('1 game', { exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Without: My rating up to 1840' }).click();
  await expect(page).not.toHaveURL(/rating=/);
  await expect(page).toHaveURL(/outcome=won/);

  // under a name
  await page.getByRole('button', { name: 'Save this filter …' }).click();
  await page.getByLabel('Name of the filter').fill('My wins');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await page.getByRole('link', { name: 'All games' }).click();
  await expect(rows).toHaveCount(3);
  await page.getByRole('link', { name: 'My wins' }).click();
  await expect(rows).toHaveCount(1);
  await page.getByRole('button', { name: 'Forget the filter My wins' }).click();
  await expect(page.getByRole('link', { name: 'My wins' })).toHaveCount(0);

  // by words that were written, and by date
  await open(page, '/');
  await page.getByLabel('Player, event, date or words').fill('bad IDEA');
  await page.keyboard.press('Enter');
  await expect(rows).toHaveCount(1);
  await expect(rows).toContainText('2026-05-02');
  await open(page, '/?date=2026..&kind=shogi');
  await expect(rows).toHaveCount(1);
  await open(page, '/?text=nobody');
  await expect(page.getByText('No game fits. Try fewer words.')).toBeVisible();
  expect(errors).toEqual([]);
  await context.request.post('/api/account/close', { data: { password: PASSWORD } });
});

test('what players look for is found in a step, worst moments are seen at a glance', async ({
  browser,
}) => {
  const context = await library(browser, GAMES);
  const page = await context.newPage();
  await open(page, '/');
  await page.getByRole('button', { name: 'Mirela Tanase' }).click();
  const started = await context.request.post('/api/batches', {
    data: { onlyNew: true, settings: { average: { nodes: 1000 } } },
  });
  const { id } = (await started.json()) as { id: number };
  const state = async (): Promise<string | undefined> =>
    (
      (await (await context.request.get('/api/batches')).json()) as { id: number; state: string }[]
    ).find((batch) => batch.id === id)?.state;
  await expect.poll(state, { timeout: 60_000 }).toBe('done');
  await open(page, '/');
  const rows = rowsOf(page);
  const view = (name: string) => page.getByRole('link', { name, exact: true }).click();
  await expect(page.getByText('3 of 3', { exact: true })).toBeVisible();
  await view('Wins I played worst');
  await expect(rows).toHaveCount(1);
  await expect(rows).toContainText('2025-03-01');
  await view('Not looked at yet');
  // one of them has words in it
  await expect(rows).toHaveCount(2);
  await expect(page.getByText('Opened lately')).toBeVisible();
  await view('My best games');
  await expect(rows).toHaveCount(3);
  await expect(page.getByRole('columnheader', { name: /^Accuracy/ })).toHaveAttribute(
    'aria-sort',
    'descending',
  );

  // the fool's mate: the move before it
  const worst = rows.filter({ hasText: '2026-05-02' }).getByRole('link', { name: /move 2$/ });
  await worst.focus();
  await expect(page.getByRole('img', { name: /^Position rnbqkbnr/ })).toBeVisible();
  await expect(page.getByText('then g4')).toBeVisible();
  await worst.press('Enter');
  await expect(page).toHaveURL(/games\/\d+\?ply=2/);
  await expect(page.locator('.sheet-rows .move').first()).toBeVisible();
  await open(page, '/');
  await view('Opened lately');
  await expect(rows).toHaveCount(1);
  await expect(rows).toContainText('2026-05-02');
  await context.request.post('/api/account/close', { data: { password: PASSWORD } });
});

test('many games are tagged, deleted and brought back together', async ({ browser }) => {
  const context = await library(browser, GAMES);
  const page = await context.newPage();
  const errors = watchForErrors(page);
  await open(page, '/');
  const rows = rowsOf(page);
  await rows.filter({ hasText: 'Shogi' }).getByRole('checkbox').check();
  await rows.filter({ hasText: '2025-03-01' }).getByRole('checkbox').check();
  await expect(page.getByText('2 games chosen', { exact: true })).toBeVisible();
  const tools = page.getByRole('group', { name: /chosen/ });
  await tools.getByLabel('Tag', { exact: true }).fill(' to  show ');
  await tools.getByRole('button', { name: 'Tag them' }).click();
  await expect(page.getByText('2 games have the tag')).toBeVisible();
  await expect(rows.filter({ hasText: 'to show' })).toHaveCount(2);
  await page.getByRole('search').getByLabel('Tag').selectOption('to show (2)');
  await page.getByRole('search').getByRole('button', { name: 'Find' }).first().click();
  await expect(rows).toHaveCount(2);

  // all that the filter holds
  await page.getByRole('checkbox', { name: 'Choose all games of the list' }).check();
  await expect(page.getByText('2 games chosen', { exact: true })).toBeVisible();
  await tools.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByText('2 games deleted; for a month')).toBeVisible();
  await expect(rows).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(rows).toHaveCount(2);

  // one from its Desk, found among those that were deleted
  await rows.filter({ hasText: 'Shogi' }).getByRole('link').first().click();
  await page.getByRole('button', { name: 'Delete' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByText('The game is deleted; for a month')).toBeVisible();
  await open(page, '/');
  await expect(rows).toHaveCount(2);
  await page.getByRole('link', { name: 'Deleted games' }).click();
  await expect(rows).toHaveCount(1);
  await page.getByRole('checkbox', { name: 'Choose all games of the list' }).check();
  await tools.getByRole('button', { name: 'Bring back' }).click();
  await expect(page.getByText('1 game is back.')).toBeVisible();
  await open(page, '/');
  await expect(rows).toHaveCount(3);
  await context.request.post('/api/account/close', { data: { password: PASSWORD } });
  expect(errors).toEqual([]);
});

test('of many games those in sight are drawn, down to the last one', async ({ browser }) => {
  const many = Array.from({ length: 450 }, (_, index) =>
    pgn(`Round ${index}`, '1. e4 e5 1-0').replace(
      '[Result',
      `[Date "20${10 + (index % 10)}.01.01"]\n[Round "${index}"]\n[Result`,
    ),
  );
  const context = await library(browser, [['many.pgn', many.join('\n')]]);
  const page = await context.newPage();
  const errors = watchForErrors(page);
  await open(page, '/');
  const rows = rowsOf(page);
  await expect(page.getByRole('table')).toHaveAttribute('aria-rowcount', '451');
  await expect(rows.first()).toContainText('2019-01-01');
  expect(await rows.count()).toBeLessThan(100);
  await page.keyboard.press('End');
  await expect(rows.last()).toHaveAttribute('data-index', '449');
  await expect(rows.last()).toContainText('2010-01-01');
  expect(await rows.count()).toBeLessThan(100);

  // and back to the same place from a game
  const event = (await rows.last().textContent())!.match(/Round \d+/)![0];
  await rows.last().getByRole('link').first().click();
  await expect(page).toHaveURL(/games\/\d+/);
  await page.locator('.sheet-rows .move').first().waitFor();
  await page.goBack();
  await expect(rows.last()).toContainText(event);
  await expect(rows.last()).toBeInViewport();
  await context.request.post('/api/account/close', { data: { password: PASSWORD } });
  expect(errors).toEqual([]);
});
