import { expect, test } from '@playwright/test';
import { kif, pgn, takeIn, watchForErrors } from './support';

const CHESS = pgn(
  'Sheet',
  `1. e4 e5 2. Nf3 (2. Bc4 Nf6 3. d3 (3. Nc3 Nc6) 3... c6 (3... Bc5 4. Nc3 d6 5. Na4 Bb6 6. Nxb6 axb6
7. f4 exf4 8. Bxf4 Be6 9. Qf3 Nbd7 10. Ne2 O-O) 4. Nf3 {a quiet line} d5) 2... Nc6 *`,
);
const SHOGI = kif(`   1 ７六歩(77)
   2 ３四歩(33)
   3 ２六歩(27)
   4 ４四歩(43)

変化：2手
   2 ８四歩(83)
   3 ６八銀(79)
   4 ３四歩(33)

変化：3手
   3 ２六歩(27)
   4 ３二金(41)
`);

test('a short variation of a variation stands in brackets, a long one on lines of its own', async ({
  page,
}) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'sheet.pgn', CHESS);
  const under = page.locator('.under').first();
  // what comes after something in between says its number anew
  await expect(under).toHaveText(/3\. d3 \[.?.? ?3\. Nc3 Nc6 ?\] 3… c6/);
  await expect(under).toHaveText(/4\. Nf3 a quiet line 4… d5/);
  const nested = under.locator('.nested');
  await expect(nested).toHaveCount(1);
  await expect(nested).toHaveText(/3… Bc5 4\. Nc3 d6 .* 10\. Ne2 O-O/);
  // and it is further in than the line that it leaves
  const [outer, inner] = await Promise.all([under.boundingBox(), nested.boundingBox()]);
  expect(inner!.x).toBeGreaterThan(outer!.x);

  // folded up, only the first move is left of it, and how much else there is
  await nested.getByRole('button', { name: 'Fold' }).first().click();
  await expect(nested).toHaveText(/3… Bc5 and 14 moves/);
  await nested.getByRole('button', { name: 'Unfold' }).click();
  await nested.getByRole('button', { name: 'Qf3' }).click();
  await expect(nested.locator('.current')).toHaveText('Qf3');
  await page.keyboard.press('ArrowRight');
  await expect(nested.locator('.current')).toHaveText('Nbd7');
  expect(errors).toEqual([]);
});

test('in shogi the same', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'sheet.kifu', SHOGI);
  const under = page.locator('.under').first();
  await expect(under).toHaveText(/2 P-8d S-6h/);
  await expect(under).toHaveText(/\[.?.? ?3 P-2f G-3b ?\] 4 P-3d/);
  await expect(under.locator('.nested')).toHaveCount(0);
  expect(errors).toEqual([]);
});
