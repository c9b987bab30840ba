import { expect, test, type Page } from '@playwright/test';
import { contentsOf, kif, open, pgn, sweep, takeIn, watchForErrors } from './support';

// Black lets a mate in one happen; White gives a pawn before
const CHESS = pgn('Choices', '1. e4 e5 2. Qh5 Nc6 3. Bc4 Nf6 4. Qxf7# 1-0');
const SHOGI = kif(`   1 ７六歩(77)
   2 ３四歩(33)
   3 ２二角成(88)
   4 同　銀(31)
   5 ２六歩(27)
`);

/** The game on the Desk as a PGN file. */
async function exportedPgn(page: Page): Promise<string> {
  await page.getByRole('button', { name: 'Export' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page
      .getByRole('button', { name: /^PGN/ })
      .or(page.getByRole('link', { name: /^PGN/ }))
      .first()
      .click(),
  ]);
  return contentsOf(download);
}

test('a sweep goes over the moves that were chosen, and says how long that will take', async ({
  page,
}) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'choices.pgn', CHESS);
  await page.getByRole('button', { name: 'Choices …' }).click();
  const dialog = page.getByRole('dialog', { name: 'How to go over it' });
  await dialog.getByRole('button', { name: 'Quick' }).click();
  await expect(dialog.getByRole('button', { name: 'Quick' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await dialog.getByLabel('Whose moves').selectOption({ label: 'Black' });
  await dialog.getByLabel('First half move').fill('5');
  await dialog.getByLabel('Last half move').fill('4');
  await expect(dialog.getByRole('alert')).toContainText('between 1 and 7');
  await expect(dialog.getByRole('button', { name: 'Go over it' })).toBeDisabled();
  await dialog.getByLabel('Last half move').fill('6');
  await dialog.getByRole('button', { name: 'Go over it' }).click();
  const again = page.getByRole('button', { name: 'Go over it again' });
  await expect(again).toBeVisible({ timeout: 90_000 });
  // one move of Black's, none of White's
  const figures = page.getByRole('region', { name: 'Review' }).locator('.accuracy-table').first();
  await expect(figures.getByRole('row').nth(1).getByRole('cell').last()).toHaveText('0');
  await expect(figures.getByRole('row').nth(2).getByRole('cell').last()).toHaveText('1');
  await expect(page.locator('[data-ply="6"]')).toContainText('??');
  // it has been measured now
  await page.getByRole('button', { name: 'Choices …' }).click();
  await expect(dialog.getByRole('status')).toContainText(/About \d+ (second|minute)/);
  expect(errors).toEqual([]);
});

test('remarks are as they were chosen, in the sheet and in what goes out, and are kept as a preset', async ({
  page,
}) => {
  await takeIn(page, 'remarks.pgn', CHESS);
  await sweep(page);
  const sheet = page.getByRole('region', { name: 'Sheet' });
  await expect(sheet.getByText(/−\d+ chance points/).first()).toBeVisible();
  await expect(page.locator('[data-ply="1"] .evaluation')).toHaveText(/^[+−]?\d/);
  await page.getByRole('button', { name: 'Choices …' }).click();
  const dialog = page.getByRole('dialog', { name: 'How to go over it' });
  await dialog.getByLabel('The smallest loss worth a remark').selectOption('24');
  await dialog.getByLabel('How much of a better line is kept').selectOption('2');
  await dialog.getByLabel('Remarks as').selectOption('words');
  await dialog.getByLabel('An evaluation at each move').uncheck();
  await dialog.getByLabel('Name of a preset of your own').fill('For the bulletin');
  await dialog.getByRole('button', { name: 'Keep these choices' }).click();
  await dialog.getByRole('button', { name: 'Standard' }).click();
  await dialog.getByRole('button', { name: 'For the bulletin', exact: true }).click();
  await dialog.getByRole('button', { name: 'Close' }).click();
  await expect(page.locator('.sheet-rows .evaluation')).toHaveCount(0);
  await expect(sheet.getByText(/A blunder: it gives away \d+ chance points/).first()).toBeVisible();
  const text = (await exportedPgn(page)).replace(/\s+/g, ' ');
  expect(text).toContain('The move played is a blunder');
  expect(text).not.toContain('%eval');
  expect(text).not.toContain('$6');
  // remembered, and taken away again
  await page.reload();
  await expect(sheet.getByText(/A blunder: it gives away/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Choices …' }).click();
  await dialog.getByRole('button', { name: 'Take For the bulletin away' }).click();
  await expect(dialog.getByText('For the bulletin')).toHaveCount(0);
});

test('the same for a stretch of a shogi game', async ({ page }) => {
  await takeIn(page, 'choices.kif', SHOGI);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await page.getByRole('button', { name: 'Choices …' }).click();
  const dialog = page.getByRole('dialog', { name: 'How to go over it' });
  await dialog.getByRole('button', { name: 'Quick' }).click();
  await dialog.getByRole('button', { name: 'from here' }).click();
  await expect(dialog.getByLabel('First half move')).toHaveValue('3');
  await dialog.getByRole('button', { name: 'Go over it' }).click();
  await expect(page.getByRole('button', { name: 'Go over it again' })).toBeVisible({
    timeout: 90_000,
  });
  await expect(page.locator('[data-ply="2"] .evaluation')).toHaveCount(0);
  await expect(page.locator('[data-ply="3"] .evaluation')).toHaveCount(1);
});

test('moves that a base knows are passed over', async ({ page }) => {
  await takeIn(page, 'known.pgn', pgn('Known', '1. e4 e5 2. Nf3 Nc6 3. a4 a5 4. Ra3 *'));
  await page.getByRole('button', { name: 'Choices …' }).click();
  const dialog = page.getByRole('dialog', { name: 'How to go over it' });
  await dialog.getByRole('button', { name: /^from where it left / }).click();
  const from = Number(await dialog.getByLabel('First half move').inputValue());
  expect(from).toBeGreaterThan(2);
  await dialog.getByRole('button', { name: 'Close' }).click();
  // of many games each by itself, as a worker finds out
  await open(page, '/?text=known&kind=chess');
  await page.getByRole('button', { name: /^Go over (this game|these \d+ games) …/ }).click();
  await dialog.getByRole('button', { name: 'Quick' }).click();
  await dialog.getByLabel('Passed over: moves known to the base').selectOption({ index: 1 });
  await dialog.getByRole('button', { name: 'Go over it' }).click();
  await expect(page.getByText(/without moves that a base knows/).first()).toBeVisible();
  const game = await page.locator('.games-table tbody a').first().getAttribute('href');
  await expect(async () => {
    await open(page, game!);
    await expect(page.getByRole('button', { name: 'Go over it again' })).toBeVisible({
      timeout: 2000,
    });
  }).toPass({ timeout: 90_000 });
  await expect(page.locator('[data-ply="1"] .evaluation')).toHaveCount(0);
  await expect(page.locator('[data-ply="7"] .evaluation')).toHaveCount(1);
});

// 3... Nf6 allows mate in one in two variations, and the writer does not say so; 4. Nf3 does not give it, and he does
const WRITTEN = pgn(
  'Written',
  '1. e4 e5 2. Bc4 (2. Qh5 Nc6 3. Bc4 Nf6 (3... g6 4. Qf3) 4. Qxf7#) 2... Nc6 3. Nf3 (3. Qh5 Nf6 4. Nf3 $2) *',
);

test('one’s own variations are gone over, what fails in them is pointed out, and what has changed is told', async ({
  page,
}) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'written.pgn', WRITTEN);
  await sweep(page);
  const review = page.getByRole('region', { name: 'Review' });
  await expect(review.getByTestId('failing')).toHaveCount(0);
  await expect(review.getByTestId('changes')).toHaveCount(0);
  await page.getByRole('button', { name: 'Choices …' }).click();
  const dialog = page.getByRole('dialog', { name: 'How to go over it' });
  await dialog.getByLabel('Which moves').selectOption('variations');
  await dialog.getByLabel('Last half move').fill('2');
  await expect(dialog.getByRole('alert')).toContainText('no variations');
  await dialog.getByLabel('Last half move').fill('5');
  await dialog.getByRole('button', { name: 'Go over it' }).click();
  const failing = review.getByTestId('failing');
  await expect(failing).toContainText('Of 10 moves in your variations 2 fail:', {
    timeout: 90_000,
  });
  const fails = failing.getByRole('button', { name: '3… Nf6' });
  await expect(fails).toHaveCount(2);
  // who says it himself is not told
  await expect(failing).not.toContainText('4. Nf3');
  const variation = page.locator('.variation-move').filter({ hasText: 'Nf6' }).first();
  await expect(variation).toContainText('??');
  await expect(page.locator('.failure').first()).toContainText(/−\d+, better/);
  // what had been said of the game stays
  await expect(page.locator('[data-ply="1"] .evaluation')).toHaveText(/^[+−]?\d/);
  const changes = review.getByTestId('changes');
  await expect(changes).toContainText('said the same of every move');
  await changes.getByRole('button', { name: 'Let the earlier one go' }).click();
  await expect(changes).toHaveCount(0);
  await review.getByRole('button', { name: 'Set it beside the earlier one again' }).click();
  await expect(changes).toBeVisible();
  // the way there
  await fails.first().click();
  await page.keyboard.press('ArrowRight');
  await expect(variation).toHaveAttribute('aria-current', 'step');
  expect(errors).toEqual([]);
});

test('an error of one’s own is given its cause by one tap, which goes out with the game', async ({
  page,
}) => {
  // whose games these are has Black
  const [white, black] = ['White "Mirela Tanase"', 'Black "Jonas Brandt"'];
  const swapped = CHESS.replace(white, 'White "Jonas Brandt"').replace(
    black,
    'Black "Mirela Tanase"',
  );
  await takeIn(page, 'cause.pgn', swapped);
  await sweep(page);
  await page.locator('[data-ply="6"]').click();
  const causes = page.getByRole('group', { name: 'What did it come from?' });
  await causes.getByRole('button', { name: 'reply not seen' }).click();
  await expect(causes.getByRole('button', { name: 'reply not seen' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await causes.getByRole('button', { name: 'too fast' }).click();
  await page.keyboard.press('Home');
  await expect(page.getByText('Cause: too fast')).toBeVisible();
  await expect(page.getByTestId('noted')).toContainText('1 moment marked: 3… Nf6');
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByText('Cause: too fast')).toBeVisible();
  expect(await exportedPgn(page)).toContain('[%cause hasty]');
});
