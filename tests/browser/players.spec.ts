import { expect, test } from '@playwright/test';
import { closeAccount, dropFile, kif, newLibrary, open, pgn, watchForErrors } from './support';

const PASSWORD = 'a long enough password';

test('the app learns who is who, and who is me', async ({ browser }) => {
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  const page = await context.newPage();
  const errors = watchForErrors(page);
  const made = await context.request.post('/api/account', {
    data: { name: `Learner ${Date.now()}`, password: PASSWORD },
  });
  expect(made.status()).toBe(204);
  await open(page, '/players');
  await expect(page.getByText('Bring some in on the games page.')).toBeVisible();

  const files = [
    ['a.pgn', pgn('Club', '1. e4 e5 1-0')],
    ['b.pgn', pgn('Club', '1. d4 d5 0-1').replace('Mirela Tanase', 'Tanase, Mirela')],
    ['c.kifu', kif('   1 ７六歩(77)\n   2 ３四歩(33)\n   3 投了')],
  ] as const;
  for (const [name, text] of files) {
    await open(page, '/');
    await dropFile(page, name, text);
    await expect(page).toHaveURL(/games\/\d+/);
  }
  await open(page, '/');
  const question = page.getByRole('region', { name: 'Who you are' });
  await question.getByRole('button', { name: /^Mirela Tanase/ }).click();
  await expect(question).toBeHidden();
  await expect(page.getByText('(you)', { exact: false }).first()).toBeAttached();

  // two spellings become one person
  await open(page, '/players');
  await expect(page.getByText('Mirela Tanase = Tanase, Mirela?')).toBeVisible();
  await page.getByRole('button', { name: 'They are one person' }).click();
  await expect(page.getByText('Are these the same person?')).toBeHidden();
  await page.getByRole('link', { name: 'Mirela Tanase' }).click();
  await expect(page.getByRole('link', { name: '3 games in the list' })).toBeVisible();
  await expect(page.getByRole('row', { name: /Chess, White/ })).toContainText('+1 =0 −1');
  await expect(page.getByRole('row', { name: /Shogi, Black/ })).toContainText('+0 =0 −1');
  await expect(page.getByLabel('This is me')).toBeChecked();

  // from the score in an opening, as the side that was played, to the games behind it
  const openings = page.getByRole('region', { name: 'Openings: Chess, White' });
  await expect(openings.getByRole('row', { name: /Open Game/ })).toContainText('+1 =0 −0');
  const asFirst = openings.getByRole('row', { name: /Queen's Pawn/ });
  await expect(asFirst).toContainText('+0 =0 −1');
  await asFirst.getByRole('link').click();
  const filters = page.getByRole('list', { name: 'What the list is filtered by' });
  await expect(filters).toContainText('Mirela Tanase: moving first');
  await expect(page.locator('.games-table tbody tr')).toHaveCount(1);
  await page.goBack();

  // from the score against an opponent to the games behind it
  await page
    .getByRole('row', { name: /Jonas Brandt/ })
    .getByRole('link')
    .last()
    .click();
  await expect(filters).toContainText('Mirela Tanase');
  await expect(filters).toContainText('Jonas Brandt');
  await expect(page.locator('.games-table tbody tr')).toHaveCount(2);

  // what the opponent plays, and one's own results against it
  await page.goBack();
  await page.getByRole('link', { name: 'Jonas Brandt', exact: true }).click();
  const theirs = page
    .getByRole('region', { name: 'Openings: Chess, Black' })
    .getByRole('row', { name: /Open Game/ });
  await expect(theirs).toContainText('+0 =0 −1');
  await expect(theirs).toContainText('+1 =0 −0');
  await page.getByRole('link', { name: '2 games in the list' }).click();
  await expect(filters).toContainText('From Jonas Brandt’s side');
  const games = page.locator('.games-table tbody tr');
  await expect(games.filter({ hasText: '1–0' })).toContainText('lost');
  await expect(games.filter({ hasText: '0–1' })).toContainText('won');
  await page.getByRole('link', { name: 'Not looked at yet' }).click();
  await expect(page).toHaveURL(/opened=no/);
  await expect(filters).toContainText('From Jonas Brandt’s side');
  await page.goBack();
  await page.getByRole('link', { name: 'Without: From Jonas Brandt’s side' }).click();
  await expect(games.filter({ hasText: '1–0' })).toContainText('won');
  await page.getByRole('link', { name: 'Look from Jonas Brandt’s side' }).click();
  await expect(games.filter({ hasText: '1–0' })).toContainText('lost');
  await page.getByRole('navigation').getByRole('link', { name: 'Players' }).click();
  await page.getByRole('link', { name: 'Jonas Brandt', exact: true }).click();
  const closer = page.getByRole('region', { name: 'Openings: Chess, Black' });
  await closer.getByRole('button', { name: 'Move by move on a Desk' }).click();
  await expect(closer.getByRole('alert')).toContainText('None of your bases has games of Jonas');
  const library = { name: 'All of mine', kind: 'chess', source: { from: 'library' } };
  const base = await context.request.post('/api/bases', { data: library });
  expect(base.status()).toBe(201);
  await expect
    .poll(async () =>
      (await (await context.request.get('/api/bases')).text()).includes('"indexed":0'),
    )
    .toBe(false);
  await closer.getByRole('button', { name: 'Move by move on a Desk' }).click();
  await page.waitForURL(/\/desk\?/);
  const card = page.getByRole('region', { name: 'Base', exact: true });
  await card.getByRole('button', { name: /^Base/ }).click();
  await expect(card).toContainText('2 filters on');
  await expect(card.getByRole('status')).toContainText('All of mine 2 games here');
  await page.goBack();

  // and parted again
  await page.getByRole('navigation').getByRole('link', { name: 'Players' }).click();
  await page.getByRole('link', { name: 'Mirela Tanase' }).click();
  await page
    .getByRole('listitem')
    .filter({ hasText: 'Tanase, Mirela' })
    .getByRole('button', { name: 'This is somebody else' })
    .click();
  await expect(page.getByRole('link', { name: '2 games in the list' })).toBeVisible();
  await context.request.post('/api/account/close', { data: { password: PASSWORD } });
  expect(errors).toEqual([]);
});

test('how accurately one plays, beside those of a base who are rated alike', async ({
  browser,
}) => {
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  const page = await context.newPage();
  const errors = watchForErrors(page);
  await context.request.post('/api/account', {
    data: { name: `Accurate ${Date.now()}`, password: PASSWORD },
  });
  await open(page, '/');
  await dropFile(
    page,
    'own.pgn',
    pgn('Club', '1. e4 e5 2. Nf3 Nc6 1-0').replace('[Result', '[WhiteElo "1500"]\n[Result'),
  );
  await expect(page).toHaveURL(/games\/\d+/);
  await page.getByLabel(/How long at a position/).selectOption('average nodes 100000');
  await page.getByRole('button', { name: 'Go over this game' }).click();
  // the card is gathered to its headline, which tells what has been found so far
  await expect(page.getByRole('button', { name: /^Review accuracy/ })).toBeVisible({
    timeout: 90_000,
  });
  await open(page, '/players');
  await page.getByRole('link', { name: 'Mirela Tanase' }).click();
  await expect(page).toHaveURL(/players\/\d+/);
  const accuracy = page.getByRole('region', { name: 'Accuracy, Chess' });
  // which a player's page tells of sweeps that are complete
  await expect(async () => {
    await page.reload();
    await expect(accuracy.getByRole('row', { name: /^Mirela Tanase/ })).toBeVisible({
      timeout: 2000,
    });
  }).toPass({ timeout: 60_000 });
  await expect(accuracy).toContainText('No base of yours tells how accurately players rated 1400');

  const library = { name: 'Rated alike', kind: 'chess', source: { from: 'files' } };
  const made = await context.request.post('/api/bases', { data: library });
  const { id } = (await made.json()) as { id: number };
  const peer = (round: number) =>
    `[White "A"]\n[Black "B"]\n[Round "${round}"]\n[WhiteElo "1400"]\n[BlackElo "1600"]\n\n1. d4 {[%eval 0.2,9]} d5 {[%eval 0.2,9]} 2. c4 {[%eval 0.2,9]} e6 {[%eval 0.2,9]} *\n\n`;
  await context.request.post(`/api/imports?name=peers.pgn&base=${id}`, {
    data: Buffer.from(peer(1) + peer(2)),
  });
  const row = accuracy.getByRole('row', { name: /^Rated alike, rated 1400–1600/ });
  await expect(async () => {
    await page.reload();
    await expect(row).toBeVisible({ timeout: 2000 });
  }).toPass();
  await expect(row).toContainText('4');
  await expect(row).toContainText('100.0');
  await expect(row).toContainText('too few games to tell');
  await expect(accuracy.locator('canvas')).toBeVisible();
  await expect(accuracy.getByRole('img')).toHaveAttribute('aria-label', /Rated alike.*100\.0 \(4/);
  await context.request.post('/api/account/close', { data: { password: PASSWORD } });
  expect(errors).toEqual([]);
});

test('ratings are shown over time, for each time class of either game', async ({ browser }) => {
  const rated = (day: number, rating: number, control: string): string =>
    pgn('Club', '1. e4 e5 1-0').replace(
      '[Result',
      `[Date "2026.03.0${day}"]\n[WhiteElo "${rating}"]\n[TimeControl "${control}"]\n[Result`,
    );
  const shogi = kif('   1 ７六歩(77)\n   2 投了\n').replace(
    '手合割',
    '開始日時：2026/03/04\nBlackElo：1234\n手合割',
  );
  const context = await newLibrary(browser, [
    ['a.pgn', [rated(1, 1800, '180'), rated(3, 1816, '180'), rated(2, 1900, '5400')].join('\n')],
    ['b.kifu', shogi],
  ]);
  const page = await context.newPage();
  const errors = watchForErrors(page);
  await open(page, '/players');
  await page.getByRole('link', { name: 'Mirela Tanase' }).click();
  const chess = page.getByRole('region', { name: 'Ratings, Chess' });
  await expect(chess.locator('canvas')).toBeVisible();
  const told = chess.getByRole('img');
  await expect(told).toHaveAttribute('aria-label', /blitz: 1800 to 1816 over 2 games\./);
  await expect(told).toHaveAttribute('aria-label', /long: 1900 to 1900 over 1 game\./);
  await expect(
    page.getByRole('region', { name: 'Ratings, Shogi' }).getByRole('img'),
  ).toHaveAttribute('aria-label', 'time not known: 1234 to 1234 over 1 game.');
  expect(errors).toEqual([]);
  await closeAccount(context);
});
