import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { closeAccount, kif, newLibrary, open, pgn, rowsOf, watchForErrors } from './support';

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
  const context = await newLibrary(browser, GAMES);
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
  await closeAccount(context);
});

test('what players look for is found in a step, worst moments are seen at a glance', async ({
  browser,
}) => {
  const context = await newLibrary(browser, GAMES);
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
  await closeAccount(context);
});

test('many games are tagged, deleted and brought back together', async ({ browser }) => {
  const context = await newLibrary(browser, GAMES);
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
  await closeAccount(context);
  expect(errors).toEqual([]);
});

test('of many games those in sight are drawn, down to the last one', async ({ browser }) => {
  const many = Array.from({ length: 450 }, (_, index) =>
    pgn(`Round ${index}`, '1. e4 e5 1-0').replace(
      '[Result',
      `[Date "20${10 + (index % 10)}.01.01"]\n[Round "${index}"]\n[Result`,
    ),
  );
  const context = await newLibrary(browser, [['many.pgn', many.join('\n')]]);
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
  await closeAccount(context);
  expect(errors).toEqual([]);
});

/** A file that a click on something brings. */
async function taken(page: Page, name: string | RegExp): Promise<{ name: string; bytes: Buffer }> {
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name, exact: true }).click(),
  ]);
  return { name: download.suggestedFilename(), bytes: readFileSync(await download.path()) };
}

test('games go out in any format, all of the list or those that are chosen', async ({
  browser,
}) => {
  const context = await newLibrary(browser, GAMES);
  const page = await context.newPage();
  const errors = watchForErrors(page);
  await open(page, '/');
  const rows = rowsOf(page);
  const as = async (toggle: string, name: string | RegExp, withFindings?: boolean) => {
    await page.getByRole('button', { name: toggle }).click();
    if (withFindings !== undefined)
      await page.getByLabel("With the review's findings").setChecked(withFindings);
    return taken(page, name);
  };
  const all = 'Take 3 games out';
  const chess = await as(all, 'PGN');
  expect(chess.name).toBe('bektra.pgn');
  expect(chess.bytes.toString()).toContain('{a bad idea}');
  expect(chess.bytes.toString().match(/^\[Event /gm)).toHaveLength(2);
  expect((await as(all, /^CSA/)).bytes.toString()).toContain('+7776FU');
  const legacy = await as(all, 'KIF (Shift_JIS)');
  expect(legacy.name).toBe('bektra.kif');
  expect(new TextDecoder('shift_jis').decode(legacy.bytes)).toContain('先手：Mirela Tanase');
  const table = (await as(all, 'The table as CSV')).bytes.toString();
  expect(table.trim().split('\r\n')).toHaveLength(4);

  // those that are chosen
  await rows.filter({ hasText: '2026-05-02' }).getByRole('checkbox').check();
  const one = await as('Take the game chosen out', 'PGN');
  expect(one.bytes.toString().match(/^\[Event .*/gm)).toEqual(['[Event "Autumn Cup"]']);
  await page.getByRole('checkbox', { name: 'Choose all games of the list' }).check();
  expect((await as('Take 3 chosen games out', 'PGN')).bytes.toString()).toBe(
    chess.bytes.toString(),
  );

  // with what a sweep has found, or without
  await page.getByRole('checkbox', { name: 'Choose all games of the list' }).uncheck();
  const started = await context.request.post('/api/batches', {
    data: { onlyNew: true, kind: 'chess', settings: { average: { nodes: 1000 } } },
  });
  expect(started.status()).toBe(201);
  const batches = async () =>
    (await (await context.request.get('/api/batches')).text()).includes('"state":"done"');
  await expect.poll(batches, { timeout: 60_000 }).toBe(true);
  expect((await as(all, 'PGN', true)).bytes.toString()).toContain('[%eval');
  expect((await as(all, 'PGN', false)).bytes.toString()).toBe(chess.bytes.toString());
  expect(errors).toEqual([]);
  await closeAccount(context);
});

for (const [kind, name, file] of [
  [
    'chess',
    'one.pgn',
    (round: number) =>
      pgn('Autumn Cup', '1. e4 e5 2. Nf3 Nc6 1-0').replace(
        '[Result',
        `[Date "2026.05.0${round}"]\n[Round "${round}"]\n[Result`,
      ),
  ],
  [
    'shogi',
    'one.kifu',
    (round: number) =>
      kif(
        '   1 ７六歩(77)\n   2 ３四歩(33)\n   3 ６六歩(67)\n   4 ８四歩(83)\n   5 ６八飛(28)\n   6 投了\n',
      ).replace('手合割', `開始日時：2026/05/0${round}\n棋戦：Autumn Cup\n手合割`),
  ],
] as const)
  test(`from a ${kind} game one goes on to the next of its event, and to others of the two players and of the opening`, async ({
    browser,
  }) => {
    const context = await newLibrary(
      browser,
      [1, 2, 3].map((round) => [name, file(round)] as const),
    );
    const page = await context.newPage();
    const errors = watchForErrors(page);
    await open(page, '/');
    await rowsOf(page).filter({ hasText: '2026-05-01' }).getByRole('link').first().click();
    const beside = page.getByRole('navigation', { name: 'Where to go on' });
    const show = async () => {
      await page.locator('.sheet-rows .move').first().waitFor();
      if (!(await beside.isVisible())) await page.getByRole('button', { name: /^Game/ }).click();
    };
    await show();
    await expect(beside.getByRole('link', { name: 'Previous game of the event' })).toHaveCount(0);
    await beside.getByRole('link', { name: 'Next game of the event' }).click();
    await expect(page).toHaveTitle(/2026-05-02|Mirela/);
    await show();
    await expect(beside.getByRole('link', { name: 'Previous game of the event' })).toBeVisible();
    await beside.getByRole('link', { name: 'Next game of the event' }).click();
    await expect(beside.getByRole('link', { name: 'Next game of the event' })).toHaveCount(0);
    await beside.getByRole('link', { name: '2 other games of these two' }).click();
    const chips = page.getByRole('list', { name: 'What the list is filtered by' });
    await expect(chips).toContainText('Mirela Tanase');
    await expect(rowsOf(page)).toHaveCount(3);
    await page.goBack();
    await show();
    await beside.getByRole('link', { name: '2 other games', exact: true }).click();
    await expect(chips).toContainText('Opening');
    await expect(rowsOf(page)).toHaveCount(3);
    expect(errors).toEqual([]);
    await closeAccount(context);
  });
