import { expect, test, type Page } from '@playwright/test';
import { kif, open, pgn, sweep, takeIn, watchForErrors } from './support';

const CHESS = pgn(
  'Think',
  `1. e4 e5 2. Nf3 Nc6 3. Bc4 Bc5 4. c3 Nf6 5. d3 d6 6. O-O O-O 7. h3 h6 8. Re1 a6
9. Qe2 {SECRETWORDS} Be6 10. Nbd2 Bxc4 11. Nxc4 b5 12. Qd2 $4 bxc4 13. a4 $1 Qd7 0-1`,
);
const SHOGI = kif(`   1 ７六歩(77)
   2 ３四歩(33)
   3 ２二角成(88)
*SECRETWORDS
   4 同　銀(31)
   5 ４五角打
   6 ５二金(61)
   7 ６三角成(45)
   8 同　金(52)
   9 ３八銀(39)
  10 ３三桂(21)
  11 ２六歩(27)
  12 ４二玉(51)
  13 投了
`);

/** Everything that the server has sent for a walk so far. */
function recordAnswers(page: Page): { text: string } {
  const sent = { text: '' };
  page.on('response', (response) => {
    if (!/\/think/.test(response.url())) return;
    response.text().then(
      (text) => (sent.text += text),
      () => undefined,
    );
  });
  return sent;
}

async function begin(page: Page, whose: string, time: string): Promise<{ text: string }> {
  await page.getByRole('link', { name: 'Think first' }).click();
  await page.getByLabel('Whose moves').selectOption(whose);
  await page.getByLabel('Time for each position').selectOption(time);
  // whose moves are asked for is not known yet: no move at all is in the page
  expect(await page.content()).not.toMatch(/e2e4|g1f3|3c3d|8h2b/);
  const sent = recordAnswers(page);
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('heading', { name: /Position 1 of \d+/ })).toBeVisible();
  await page.waitForLoadState('networkidle');
  return sent;
}

test('think first: nothing of what follows is there until a move is entered', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'think.pgn', CHESS);
  await sweep(page);
  const sent = await begin(page, "White's moves", 'as long as it takes');
  const count = Number(
    /of (\d+)/.exec((await page.getByRole('heading', { level: 2 }).textContent())!)![1],
  );
  // White's blunder, and ordinary positions so that stopping tells nothing
  expect(count).toBeGreaterThan(2);

  for (let stop = 1; stop <= count; stop++) {
    await expect(page.getByRole('heading', { level: 2 })).toHaveText(
      `Position ${stop} of ${count}`,
    );
    const content = await page.content();
    const known = (await page.getByRole('group', { name: 'Moves so far' }).textContent())!;
    const plies = known.split(' ').filter((word) => !word.includes('.')).length;
    for (const text of [content, sent.text]) {
      expect(text).not.toContain('SECRETWORDS');
      expect(text).not.toMatch(/"(score|lines|evaluations|symbols|verdict|isTurningPoint)"/);
      // the last moves of the game are sent at no stop, White's blunder only after it
      expect(text).not.toContain('d8d7');
      if (plies < 23) expect(text).not.toContain('e2d2');
    }
    await page.reload();
    await page.locator('html[data-bs-theme]').waitFor();
    await page.getByLabel('Your move').fill('a3');
    await page.keyboard.press('Enter');
    const answer = page.getByTestId('think-answer');
    await expect(answer.getByRole('status')).toContainText(
      /costs \d+ points against|is as good as any/,
    );
    await expect(answer.getByRole('row', { name: /Your move/ })).toContainText('a3');
    await expect(answer.getByRole('row', { name: /Played/ })).toContainText(/\d+ %/);
    if (plies === 22) {
      await expect(answer.getByRole('status')).toContainText('Here the game turned.');
      await expect(answer.getByRole('row', { name: /Best/ })).not.toContainText('Qd2');
    }
    sent.text = '';
    await page.getByRole('link', { name: stop === count ? 'What came of it' : 'Next' }).click();
  }
  await expect(page.getByRole('row')).toHaveCount(count + 1);
  await expect(
    page.getByText(
      /Your moves cost \d+\.\d points on average, those played \d+\.\d \(\d+ positions\)/,
    ),
  ).toBeVisible();
  // beside what was played, where the game turned, and each position opens on the Desk
  const turned = page.getByRole('row', {
    name: /12\. Qd2 costs \d+ points Here the game turned\./,
  });
  await expect(turned.getByRole('cell', { name: /^a3 costs/ })).toBeVisible();
  await expect(turned.getByRole('img')).toBeVisible();
  await turned.getByRole('link', { name: /Qd2/ }).click();
  await expect(page.getByRole('region', { name: 'Sheet' }).locator('.move.current')).toHaveText(
    /b5/,
  );
  await page.goBack();
  // a walk that is over is looked at again, or begun anew
  await page.getByRole('link', { name: 'Another walk' }).click();
  await expect(page.getByRole('button', { name: 'Begin anew' })).toBeVisible();
  await page.getByRole('link', { name: 'What came of it' }).click();
  await expect(page.getByRole('row')).toHaveCount(count + 1);
  expect(errors).toEqual([]);
});

test('think first in shogi, against the clock', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'think.kifu', SHOGI);
  await sweep(page);
  const sent = await begin(page, "Black's moves", '0:30');
  await expect(page.getByRole('heading', { level: 2 })).toHaveText(/Position 1 of [2-4]/);
  await expect(page.getByRole('timer')).toContainText(/0:[12]\d left/);
  expect(sent.text).not.toMatch(/SECRETWORDS|5b6c|3a4b|2g2f/);
  await page.clock.install();
  await page.reload();
  await page.locator('html[data-bs-theme]').waitFor();
  await page.clock.fastForward(31_000);
  await expect(page.getByRole('main').getByRole('alert')).toContainText('Time is up');
  await page.clock.resume();
  await page.getByLabel('Your move').fill('8h8h');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('main').getByRole('alert').last()).toContainText('8h8h');
  await page.getByLabel('Your move').fill('3i3h');
  await page.keyboard.press('Enter');
  const answer = page.getByTestId('think-answer');
  await expect(answer.getByRole('row', { name: /Your move/ })).toContainText('S-3h');
  await expect(answer.getByRole('row', { name: /Played/ })).toContainText(/\d+ %/);
  expect(errors).toEqual([]);
});

test('without a sweep, thinking first says what is missing', async ({ page }) => {
  await takeIn(page, 'unswept.pgn', CHESS);
  await page.goto(`${new URL(page.url()).pathname}/think`);
  await expect(page.getByRole('main')).toContainText('Let the engine go over it on the Desk');
});

test('a walk left half-way is gone on with another day, or begun anew', async ({
  page,
  context,
}) => {
  await takeIn(page, 'half-way.pgn', CHESS);
  await sweep(page);
  await begin(page, "White's moves", 'as long as it takes');
  await page.getByLabel('Your move').fill('a3');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('think-answer').getByRole('status')).toContainText('a3');
  const address = new URL(page.url()).pathname;
  await page.close();

  const later = await context.newPage();
  await open(later, address);
  await later.getByRole('combobox', { name: 'Whose moves' }).selectOption("Black's moves");
  await expect(later.getByRole('button', { name: 'Begin', exact: true })).toBeVisible();
  await later.getByRole('combobox', { name: 'Whose moves' }).selectOption("White's moves");
  await later.getByRole('link', { name: 'Go on where you left' }).click();
  await expect(later.getByRole('heading', { name: /Position 2 of \d+/ })).toBeVisible();
  await later.goBack();
  await later.getByRole('button', { name: 'Begin anew' }).click();
  await expect(later.getByRole('heading', { name: /Position 1 of \d+/ })).toBeVisible();
  await expect(later.getByLabel('Your move')).toHaveValue('');
});

test('where the engine of the page does not start, what the sweep found is told all the same', async ({
  page,
}) => {
  await takeIn(page, 'think.pgn', CHESS);
  await sweep(page);
  await page.route(/\/engine\/.*\.wasm$/, (route) => route.abort());
  await begin(page, "White's moves", 'as long as it takes');
  const field = page.getByRole('textbox').first();
  await field.fill('h4');
  await field.press('Enter');
  const answer = page.getByTestId('think-answer');
  await expect(answer.getByRole('alert')).toContainText('The engine failed. Reload the page');
  await expect(answer.getByRole('status')).toHaveText(/^\s*Your move is/);
  await expect(answer.locator('tbody tr')).toHaveCount(3);
  await page.unroute(/\/engine\/.*\.wasm$/);
  await page.reload();
  await expect(answer.getByRole('status')).toContainText(/costs|as good as any/);
});
