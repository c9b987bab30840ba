import { expect, test, type Page } from '@playwright/test';
import { kif, open, pgn, takeIn, watchForErrors } from './support';

const card = (page: Page) => page.getByRole('region', { name: 'Base', exact: true });
const row = (page: Page, move: string) =>
  card(page)
    .locator('.base-table tbody tr')
    .filter({ has: page.getByRole('rowheader', { name: move, exact: true }) });

/** Games of a made-up club, each of two moves and a few facts. */
function clubFile(): string {
  const game = (
    index: number,
    moves: string,
    result: string,
    year: number,
    rating: number,
  ): string => `[Event "Harbour Cup"]
[Round "${index}"]
[White "Strong ${index % 3}"]
[Black "Other ${index % 4}"]
[WhiteElo "${rating}"]
[BlackElo "2400"]
[Date "${year}.05.01"]
[Result "${result}"]

${moves} ${result}
`;
  const many = (count: number, make: (index: number) => string): string[] =>
    Array.from({ length: count }, (_, index) => make(index));
  return [
    ...many(12, (index) =>
      game(index, '1. e4 e5 2. Nf3 Nc6', index % 3 ? '1-0' : '0-1', 2010, 2500),
    ),
    ...many(4, (index) => game(20 + index, '1. d4 d5 2. Nf3 Nf6', '1/2-1/2', 2020, 2300)),
    ...many(2, (index) => game(30 + index, '1. Nf3 d5 2. d4 Nf6', '0-1', 2021, 2300)),
  ].join('\n');
}

async function makeBase(page: Page, name: string, kind: string): Promise<void> {
  await open(page, '/bases');
  await page.getByLabel('Name').fill(name);
  await page.getByRole('combobox', { name: 'Game', exact: true }).selectOption(kind);
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByRole('row', { name })).toBeVisible();
}

async function addFile(page: Page, base: string, name: string, text: string): Promise<void> {
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: `Add files to ${base}` }).click();
  await (await chooser).setFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
}

async function removeBase(page: Page, name: string): Promise<void> {
  await open(page, '/bases');
  await page.getByRole('button', { name: `Delete ${name}` }).click();
  await page.getByRole('button', { name: 'Delete it for good' }).click();
  await expect(page.getByRole('row', { name })).toHaveCount(0);
}

test('a base is made of a file, and asked on the Desk', async ({ page }) => {
  const errors = watchForErrors(page);
  const name = `Club ${Date.now()}`;
  await makeBase(page, name, 'chess');
  await addFile(page, name, 'club.pgn', clubFile());
  await expect(page.getByRole('row', { name }).getByRole('cell').nth(3)).toHaveText('18');
  // the same file once more changes nothing
  await addFile(page, name, 'club.pgn', clubFile());
  await expect(page.getByRole('button', { name: `Add files to ${name}` })).toBeEnabled();

  await takeIn(page, 'asked.pgn', pgn('Asked', '1. e4 e5 2. Bc4 *'));
  await expect(card(page)).toContainText('Base');
  await chooseOnly(page, name);
  await expect(card(page).getByRole('status')).toContainText(`${name} 18 games here, of 18`);
  await expect(row(page, 'e4')).toContainText('12 67 %');
  await expect(row(page, 'e4')).toContainText('67 % (95 % likely 39–86) of 12 games: +8 =0 −4');
  await expect(row(page, 'e4')).toHaveClass(/played/);
  await expect(row(page, 'd4')).toHaveClass(/few/);
  await expect(row(page, 'd4')).toContainText('2020');

  // where the game left it: in the card, the sheet and the course
  await expect(card(page)).toContainText(
    'This game left it with 2. Bc4 (White): usual was Nf3, 100 % of 12 games',
  );
  await expect(page.locator('.move', { has: page.locator('.leaves') })).toHaveAttribute(
    'data-ply',
    '3',
  );
  await expect(page.getByRole('img', { name: `known to ${name}` })).toBeVisible();

  // the order, by a column's head
  await card(page).getByRole('button', { name: 'Years' }).click();
  await expect(card(page).locator('.base-table tbody tr').first()).toContainText('Nf3');

  // what other ways there are, in the wide card
  await card(page)
    .getByRole('button', { name: /Spread/ })
    .click();
  await expect(row(page, 'e4')).toContainText('2500');
  await row(page, 'd4').getByRole('button', { name: 'd4', exact: true }).click();
  await expect(page.locator('#board-words')).toContainText('Black to move');
  await expect(card(page).getByRole('status')).toContainText('4 games here');
  await row(page, 'd5').getByRole('button', { name: 'd5', exact: true }).click();
  await expect(row(page, 'Nf3')).toContainText('+2');
  await card(page)
    .getByRole('button', { name: /Back beside/ })
    .click();

  // a filter counts other games
  await card(page).getByText('All games count').click();
  await card(page).getByLabel('Rating of the side to move: from').fill('2400');
  await card(page).getByLabel('Rating of the side to move: from').press('Enter');
  await expect(card(page).getByRole('status')).toContainText(
    'none of its games that the filter holds',
  );
  await page.keyboard.press('Escape');
  await card(page).getByRole('button', { name: 'All games', exact: true }).click();
  expect(errors).toEqual([]);
  await removeBase(page, name);
});

/** Asks one base alone. */
async function chooseOnly(page: Page, name: string): Promise<void> {
  const choice = card(page).getByRole('group', { name: 'Bases that are asked' });
  const wanted = choice.getByRole('button', { name, exact: true });
  await expect(wanted).toBeVisible();
  if ((await wanted.getAttribute('aria-pressed')) !== 'true') await wanted.click();
  for (const other of await choice.locator('[aria-pressed="true"]').allTextContents())
    if (other !== name) await choice.getByRole('button', { name: other, exact: true }).click();
  await expect(choice.locator('[aria-pressed="true"]')).toHaveText([name]);
}

test('its games are listed, looked at, and put into the sheet with where they are from', async ({
  page,
}) => {
  const errors = watchForErrors(page);
  const name = `Games ${Date.now()}`;
  await makeBase(page, name, 'chess');
  await addFile(page, name, 'club.pgn', clubFile());
  await expect(page.getByRole('row', { name }).getByRole('cell').nth(3)).toHaveText('18');
  await takeIn(page, 'beside.pgn', pgn('Beside', '1. e4 e5 2. Bc4 *'));
  await chooseOnly(page, name);
  await row(page, 'd4').getByRole('button', { name: 'Games with d4' }).click();
  const games = card(page).locator('.game-line');
  await expect(games).toHaveCount(4);
  const order = card(page).getByRole('combobox', { name: 'Order of the games' });
  await order.selectOption('of my opponents, latest first');
  await expect(card(page)).toContainText('No game here by anybody whom you have played.');
  await order.selectOption('best rated first');
  await games.first().click();
  await expect(games.first()).toContainText(
    /Strong \d 2300 – Other \d 2400 ½–½ 2020 · Harbour Cup/,
  );
  await expect(card(page).locator('.game-moves')).toContainText('1. d4 d5 2. Nf3 Nf6');
  await card(page).locator('.game-moves').getByRole('button', { name: 'Nf3' }).click();
  const sheet = page.getByRole('region', { name: 'Moves of the game' });
  await expect(sheet).toContainText('d4 d5 2. Nf3');
  await expect(sheet).toContainText(/Strong \d 2300 – Other \d 2400, Harbour Cup 2020, Games \d+/);
  await expect(page.locator('.current').first()).toHaveText('Nf3');
  await expect(page.getByText('saved')).toBeVisible();

  // back where they were listed they are listed again
  await page.keyboard.press('Home');
  await expect(games).toHaveCount(4);
  await card(page).locator('.game-line').first().click();
  const opened = page.waitForEvent('popup');
  await card(page).getByRole('link', { name: 'Open it on a Desk of its own' }).click();
  const desk = await opened;
  await expect(desk.getByRole('heading', { level: 1 })).toContainText('Strong');
  await expect(desk.locator('.move')).toHaveText(['d4', 'd5', 'Nf3', 'Nf6']);
  await desk.close();
  expect(errors).toEqual([]);
  await removeBase(page, name);
});

test('a base follows the library, in shogi too, and stands beside another', async ({ page }) => {
  const errors = watchForErrors(page);
  const tail = Date.now();
  const [mine, club] = [`Mine ${tail}`, `Club ${tail}`];
  await makeBase(page, club, 'shogi');
  await addFile(page, club, 'club.kif', kif('   1 ２六歩(27)\n   2 ３四歩(33)\n   3 投了\n'));
  await expect(page.getByRole('row', { name: club }).getByRole('cell').nth(3)).toHaveText('1');
  await page.getByLabel('Name').fill(mine);
  await page.getByRole('combobox', { name: 'Game', exact: true }).selectOption('shogi');
  await page.getByRole('combobox', { name: 'Games from' }).selectOption('library');
  await page.getByRole('button', { name: 'Make it' }).click();
  const games = page.getByRole('row', { name: mine }).getByRole('cell').nth(3);
  await expect(games).toHaveText(/^[1-9]\d*$/, { timeout: 30_000 });
  const before = Number(await games.textContent());

  await takeIn(page, 'new.kif', kif('   1 ７六歩(77)\n   2 ３四歩(33)\n'));
  await chooseOnly(page, mine);
  await expect(card(page).getByRole('status')).toContainText(`of ${before + 1}`, {
    timeout: 30_000,
  });
  await card(page).getByRole('button', { name: club, exact: true }).click();
  await expect(card(page).getByRole('status').nth(1)).toContainText(`${club} 1 game here, of 1`);
  await expect(card(page).getByRole('columnheader', { name: club })).toBeVisible();
  await expect(row(page, 'P-2f')).toContainText('100 %');
  expect(errors).toEqual([]);
  await removeBase(page, mine);
  await removeBase(page, club);
});

for (const { kind, file, asked, move, inserted } of [
  {
    kind: 'chess',
    file: { name: 'turned.pgn', text: pgn('Turned', '1. e3 e5 2. e4 Nf6 3. Nc3 Bb4 0-1') },
    asked: { name: 'asked.pgn', text: pgn('Asked', '1. e4 e5 *') },
    move: 'Nf3',
    inserted: ['e4', 'e5', 'Nf3', 'Nc6'],
  },
  {
    kind: 'shogi',
    file: {
      name: 'turned.kif',
      text: kif(
        '   1 ７六歩(77)\n   2 ３四歩(33)\n   3 ４八金(49)\n   4 ７二金(61)\n   5 ３八金(48)\n   6 ８四歩(83)\n   7 ２六歩(27)\n   8 ３二金(41)\n   9 投了\n',
      ),
    },
    asked: {
      name: 'asked.kif',
      text: kif('   1 ７六歩(77)\n   2 ３四歩(33)\n   3 ３八金(49)\n   4 ７二金(61)\n'),
    },
    move: 'P-2f',
    inserted: ['P-7f', 'P-3d', 'G-3h', 'G-7b', 'P-2f', 'P-8d'],
  },
])
  test(`${kind} games with colours reversed are counted where that is asked, and put into the sheet turned round`, async ({
    page,
  }) => {
    const errors = watchForErrors(page);
    const name = `Turned ${kind} ${Date.now()}`;
    await makeBase(page, name, kind);
    await addFile(page, name, file.name, file.text);
    await expect(page.getByRole('row', { name }).getByRole('cell').nth(3)).toHaveText('1');
    await takeIn(page, asked.name, asked.text);
    await chooseOnly(page, name);
    await page.keyboard.press('End');
    await expect(row(page, move)).toHaveCount(0);
    await card(page).getByText('All games count').click();
    await card(page).getByLabel('Colours').selectOption('reversed too');
    await expect(card(page).getByRole('status')).toContainText(`${name} 1 game here, of 1`);
    // what Black or gote won is a win of who moves here
    await expect(row(page, move)).toContainText('of 1 game: +1 =0 −0');

    await row(page, move)
      .getByRole('button', { name: `Games with ${move}` })
      .click();
    await card(page).locator('.game-line').click();
    await expect(card(page).locator('.game-moves')).toContainText('colours reversed');
    await card(page)
      .locator('.game-moves')
      .getByRole('button', { name: inserted.at(-1)!, exact: true })
      .click();
    const sheet = page.getByRole('region', { name: 'Moves of the game' });
    await expect(sheet.locator('.move')).toContainText(inserted);
    await expect(sheet).toContainText('colours reversed');
    await expect(page.getByText('saved')).toBeVisible();
    expect(errors).toEqual([]);
    await removeBase(page, name);
  });

test('what cannot be made says why', async ({ page }) => {
  const name = `Twice ${Date.now()}`;
  await makeBase(page, name, 'chess');
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByRole('main').getByRole('alert')).toContainText(
    'a base of that name already',
  );
  await removeBase(page, name);
});

test('a base is given to somebody, who asks it and can do no more with it', async ({
  page,
  browser,
}) => {
  const tail = Date.now();
  const [name, person] = [`Lent ${tail}`, `Borrower ${tail}`];
  await makeBase(page, name, 'chess');
  await addFile(page, name, 'club.pgn', clubFile());
  await expect(page.getByRole('row', { name }).getByRole('cell').nth(3)).toHaveText('18');
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  const made = await context.request.post('/api/account', {
    data: { name: person, password: 'a long enough password' },
  });
  expect(made.status()).toBe(204);

  await open(page, '/given');
  await page.getByRole('combobox', { name: 'What' }).selectOption(`The base ${name}`);
  await expect(page.getByRole('combobox', { name: 'To whom' })).toHaveCount(0);
  await page.getByLabel('Exact name of their account').fill(person);
  await page.getByRole('button', { name: 'Give', exact: true }).click();
  await expect(page.getByRole('status')).toContainText(`Given to ${person}`);

  const other = await context.newPage();
  await open(other, '/given');
  await other.getByRole('link', { name: `The base ${name}` }).click();
  await expect(other.getByRole('row', { name })).toContainText('given by Demo');
  await expect(other.getByRole('row', { name }).getByRole('button')).toHaveCount(0);
  await open(other, '/desk?kind=chess');
  await card(other).getByRole('button', { name: /^Base/ }).click();
  await expect(card(other).getByRole('status')).toContainText(`${name} 18 games here, of 18`);
  await context.request.post('/api/account/close', {
    data: { password: 'a long enough password' },
  });
  await context.close();
  await removeBase(page, name);
});
