import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { kif, open, pgn, takeIn, watchForErrors } from './support';

const CHESS = pgn('By ear', `1. e4 e5 2. Nf3 $1 Nc6 3. Bb5 {the main line} (3. Bc4 Bc5) a6 *`);
const SHOGI = kif(`   1 ７六歩(77)
   2 ３四歩(33)
   3 ２二角成(88)
   4 同　銀(31)
`);

const said = (page: Page) => page.locator('.desk > [aria-live="polite"]');
const board = (page: Page) => page.locator('.board-side').getByRole('img').first();

test('a chess game is followed by ear and by keyboard alone', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'ear.pgn', CHESS);
  await expect(said(page)).toHaveText('Start of the game');
  for (const move of [/^1\. e4/, /^1… e5/, /^2\. Nf3 !/, /^2… Nc6/, /^3\. Bb5/]) {
    await page.keyboard.press('ArrowRight');
    await expect(said(page)).toHaveText(move);
  }
  // where everything stands, in words
  await expect(board(page)).toHaveAccessibleName(
    'Board, Black to move. ' +
      'White: king e1, queen d1, rook a1 h1, bishop c1 b5, knight b1 f3, pawn a2 b2 c2 d2 f2 g2 h2 e4. ' +
      'Black: king e8, queen d8, rook a8 h8, bishop c8 f8, knight c6 g8, pawn e5 a7 b7 c7 d7 f7 g7 h7.',
  );
  // the other move in the same place, and its reply
  await page.keyboard.press('ArrowDown');
  await expect(said(page)).toHaveText(/^3\. Bc4/);
  await page.keyboard.press('ArrowRight');
  await expect(said(page)).toHaveText(/^3… Bc5/);
  // a move of one's own, typed
  await page.keyboard.press('/');
  await page.keyboard.type('O-O');
  await page.keyboard.press('Enter');
  await expect(said(page)).toHaveText(/^4\. O-O/);
  await expect(board(page)).toHaveAccessibleName(/White: king g1, queen d1, rook a1 f1/);
  expect(errors).toEqual([]);
});

test('a shogi game is followed by ear, with what is in hand', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'ear.kifu', SHOGI);
  for (const move of [/^1 P-7f/, /^2 P-3d/, /^3 Bx2b\+/, /^4 Sx2b/]) {
    await page.keyboard.press('ArrowRight');
    await expect(said(page)).toHaveText(move);
  }
  await expect(board(page)).toHaveAccessibleName(/^Board, Black to move\. Black: king 5i, rook 2h/);
  await expect(board(page)).toHaveAccessibleName(/in hand bishop 1\. White: king 5a/);
  await page.keyboard.press('ArrowLeft');
  await expect(board(page)).toHaveAccessibleName(/White: .*rook 8b.*\.$/);
  await expect(board(page)).toHaveAccessibleName(/horse 2b/);
  expect(errors).toEqual([]);
});

test('keys are where the keyboard writes them, and in their place where it writes other letters', async ({
  page,
}) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'layout.pgn', CHESS);
  const press = (
    key: string,
    code: string,
    more: { ctrlKey?: boolean; shiftKey?: boolean } = {},
  ): Promise<void> =>
    page.evaluate(
      (init) => {
        for (const type of ['keydown', 'keyup'])
          document.dispatchEvent(new KeyboardEvent(type, { ...init, bubbles: true }));
      },
      { key, code, ...more },
    );
  await page.keyboard.press('End');
  await press('!', 'Digit1', { shiftKey: true });
  await expect(said(page)).toHaveText(/a6 !/);
  // a German keyboard has Z where an American one has Y
  await press('z', 'KeyY', { ctrlKey: true });
  await expect(said(page)).toHaveText(/a6 $/);
  await press('y', 'KeyZ', { ctrlKey: true });
  await expect(said(page)).toHaveText(/a6 !/);
  // and writes the slash with shift
  await press('/', 'Digit7', { shiftKey: true });
  await expect(page.getByRole('textbox', { name: 'Next move' })).toBeFocused();
  await page.keyboard.press('Escape');
  await page.locator('body').click({ position: { x: 5, y: 5 } });
  // a Russian one writes а on the key of f
  const corner = page.locator('.board-side [data-square="0"]');
  const before = await corner.getAttribute('x');
  await press('а', 'KeyF');
  await expect(corner).not.toHaveAttribute('x', before!);
  expect(errors).toEqual([]);
});

/** Every view with a game of its own kind in it. */
async function views(page: Page, kind: string): Promise<string[]> {
  await open(page, `/?kind=${kind}`);
  const game = (await page.locator('.games-table tbody a').first().getAttribute('href'))!;
  await open(page, '/players');
  const player = (await page.locator('.games-table tbody a').first().getAttribute('href'))!;
  return [
    ...[`/?kind=${kind}`, `/games/new?kind=${kind}`, '/lessons', '/endings', `/setup?kind=${kind}`],
    ...['/players', player, '/given', '/account', '/bases', `/preparation?kind=${kind}`],
    ...['', '/think', '/print', '/question'].map((more) => game + more),
  ];
}

for (const [kind, scheme] of [
  ['chess', 'light'],
  ['shogi', 'dark'],
] as const)
  test(`on a phone held upright every view of ${kind} fits, in the ${scheme}`, async ({ page }) => {
    await page.setViewportSize({ width: 390, height: 844 });
    await page.emulateMedia({ colorScheme: scheme, reducedMotion: 'reduce' });
    for (const path of await views(page, kind)) {
      await open(page, path);
      const wide = await page.evaluate(() => document.documentElement.scrollWidth);
      expect([path, wide]).toEqual([path, 390]);
      const { violations } = await new AxeBuilder({ page }).analyze();
      expect(violations.map(({ id, nodes }) => [path, id, nodes[0]?.html])).toEqual([]);
    }
  });
