import { expect, test } from '@playwright/test';
import { closeAccount, kif, newLibrary, open, pgn, rowsOf, watchForErrors } from './support';

const dated = (text: string, day: string): string =>
  text
    .replace('[Result', `[Date "${day}"]\n[Result`)
    .replace('手合割', `開始日時：${day.replaceAll('.', '/')}\n手合割`);
const WON = dated(pgn('Club', '1. e4 e5 2. Qh5 Nc6 3. Bc4 Nf6 4. Qxf7# 1-0'), '2026.03.01');
const LOST = dated(pgn('Club', '1. f3 e5 2. g4 {too bold} Qh4# 0-1'), '2026.03.02');
const SHOGI = dated(kif('   1 ７六歩(77)\n   2 ３四歩(33)\n   3 投了\n'), '2026.03.03');

test('a coach looks over the games of a student as the student does, but for what is the student’s own business', async ({
  browser,
}) => {
  const [learner, guide] = [`Learner ${Date.now()}`, `Guide ${Date.now()}`];
  const student = await newLibrary(
    browser,
    [
      ['a.pgn', WON + LOST],
      ['b.kifu', SHOGI],
    ],
    learner,
  );
  const coach = await newLibrary(browser, [], guide);
  const { players } = (await (await student.request.get('/api/players')).json()) as {
    players: { id: number; name: string }[];
  };
  const self = players.find(({ name }) => name === 'Mirela Tanase')!;
  await student.request.put(`/api/players/${self.id}`, { data: { isSelf: true } });
  await student.request.put('/api/games', {
    data: { games: { text: 'bold' }, change: { do: 'label', label: 'ashamed' } },
  });
  await student.request.post('/api/grants', {
    data: { scope: { of: 'all' }, to: guide, right: 'comment', until: null },
  });
  const started = await student.request.post('/api/batches', {
    data: { onlyNew: true, settings: { average: { nodes: 1000 } } },
  });
  const { id } = (await started.json()) as { id: number };
  const state = async () =>
    ((await (await student.request.get('/api/batches')).json()) as { id: number; state: string }[])
      .filter((batch) => batch.id === id)
      .map((batch) => batch.state);
  await expect.poll(state, { timeout: 60_000 }).toEqual(['done']);

  const page = await coach.newPage();
  const errors = watchForErrors(page);
  await open(page, '/given');
  await page.getByRole('link', { name: 'All games' }).click();
  await expect(page.getByRole('heading', { name: `All games of ${learner}` })).toBeVisible();
  const rows = rowsOf(page);
  await expect(rows).toHaveCount(3);
  // from the student's side
  await expect(rows.filter({ hasText: '2026-03-01' })).toContainText('won');
  await expect(rows.filter({ hasText: '2026-03-02' })).toContainText('lost');
  await expect(rows.filter({ hasText: 'Shogi' })).toContainText('lost');
  await expect(page.getByText('+1 =0 −2')).toBeVisible();
  await expect(page.getByText('3 of 3', { exact: true })).toBeVisible();
  await expect(page.getByText('ashamed')).toHaveCount(0);
  // not even where nobody looks
  const grant = /given\/(\d+)/.exec(page.url())![1];
  for (const path of [`/given/${grant}`, `/api/grants/${grant}/games`]) {
    const told = await (await coach.request.get(path)).text();
    expect(told).toContain('Mirela Tanase');
    expect(told).not.toContain('ashamed');
  }
  await expect(page.getByRole('columnheader', { name: 'Tags' })).toHaveCount(0);
  await expect(page.getByRole('checkbox')).toHaveCount(0);

  // the same ways to look at them
  await page.getByRole('link', { name: 'Wins played worst' }).click();
  await expect(page).toHaveURL(/given\/\d+\?outcome=won/);
  await expect(rows).toHaveCount(1);
  await page.getByRole('link', { name: 'All games', exact: true }).click();
  await expect(rows).toHaveCount(3);
  const accuracy = page.getByRole('columnheader', { name: /^Accuracy/ });
  await accuracy.getByRole('link').click();
  await expect(accuracy).toHaveAttribute('aria-sort', 'ascending');
  const form = page.getByRole('search');
  await form.getByLabel('Player, event, date or words').fill('BOLD');
  await page.keyboard.press('Enter');
  await expect(rows).toHaveCount(1);
  await expect(page).toHaveURL(/given\/\d+\?text=BOLD&sort=accuracy/);
  await form.getByText('More filters').click();
  await expect(form.getByRole('group', { name: 'Result for the player' })).toBeVisible();
  await expect(form.getByRole('group', { name: 'Opened' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Columns' }).click();
  await expect(page.getByRole('checkbox', { name: 'The player’s rating' })).toBeVisible();
  await expect(page.getByRole('checkbox', { name: 'Tags' })).toHaveCount(0);
  await page.keyboard.press('Escape');

  // the worst moment, and its game
  const worst = rows.getByRole('link', { name: /, move 2$/ });
  await worst.hover();
  await expect(page.getByText('then g4')).toBeVisible();
  await worst.click();
  await expect(page).toHaveURL(/games\/\d+\?ply=2/);
  await expect(page.getByText('You may write words, signs and variations.')).toBeVisible();
  expect(errors).toEqual([]);
  for (const context of [student, coach]) await closeAccount(context);
});

test('of many games given those in sight are drawn, down to the last one', async ({ browser }) => {
  const many = Array.from({ length: 250 }, (_, round) =>
    pgn(`Round ${round}`, '1. e4 e5 1-0').replace('[Result', `[Round "${round}"]\n[Result`),
  );
  const owner = await newLibrary(browser, [['many.pgn', many.join('\n')]]);
  const made = await owner.request.post('/api/grants', {
    data: { scope: { of: 'all' }, to: null, right: 'read', until: null },
  });
  const { link } = (await made.json()) as { link: string };
  const visitor = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  const page = await visitor.newPage();
  const errors = watchForErrors(page);
  await open(page, `/shared/${link}`);
  const rows = rowsOf(page);
  await expect(page.getByRole('table')).toHaveAttribute('aria-rowcount', '251');
  expect(await rows.count()).toBeLessThan(100);
  await page.keyboard.press('End');
  await expect(rows.last()).toHaveAttribute('data-index', '249');
  await expect(rows.last()).toContainText('Round 0');
  expect(errors).toEqual([]);
  await closeAccount(owner);
});
