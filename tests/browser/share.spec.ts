import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { contentsOf, kif, pgn, sweep, takeIn, watchForErrors } from './support';

const CHESS = pgn(
  'Share',
  `1. e4 e5 2. Nf3 Nc6 {Now the point: <b>no</b> tag} 3. Bc4 (3. Bb5 a6) 3... Nf6 4. Ng5 d5 5. exd5 Nxd5 6. Qg4 $4 Bxg4 0-1`,
);
const SHOGI = kif(`   1 ７六歩(77)
   2 ３四歩(33)
*静かな出だし
   3 ２二角成(88)
   4 同　銀(31)
`);

const choose = async (page: Page, item: string): Promise<void> => {
  await page.getByRole('button', { name: 'Share', exact: true }).click();
  await page.getByText(item).click();
};

test('a chess game is printed with variations, words, findings and diagrams where one clicks', async ({
  page,
}) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'print.pgn', CHESS);
  await sweep(page);
  await choose(page, 'Print the game');
  await page.waitForURL(/print/);
  const printed = page.getByRole('article');
  await expect(printed.getByRole('heading', { level: 1 })).toHaveText(
    'Mirela Tanase – Jonas Brandt',
  );
  await expect(printed).toContainText('Now the point: <b>no</b> tag');
  await expect(printed).toContainText('3. Bb5 a6');
  await expect(printed.getByRole('button', { name: '6. Qg4??' })).toBeVisible();
  // before the turning point there is a diagram by itself; another comes where one clicks
  await expect(printed.locator('.diagram')).toHaveCount(1);
  await printed.getByRole('button', { name: '3. Bc4' }).click();
  await expect(printed.getByText('After 3. Bc4')).toBeVisible();
  await expect(printed.locator('.diagram')).toHaveCount(2);
  await page.getByLabel("with the engine's findings").click();
  await expect(page.getByLabel("with the engine's findings")).not.toBeChecked();
  await expect(printed.getByRole('button', { name: '6. Qg4??' })).toBeVisible();
  await expect(printed).not.toContainText('Better');
  // the address keeps it all
  await page.reload();
  await expect(printed.locator('.diagram')).toHaveCount(2);
  // on paper there is the game alone
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('toolbar')).toBeHidden();
  await expect(printed).toBeVisible();
  expect(errors).toEqual([]);
});

test('a question shows a position, and nothing of what follows is in the page', async ({
  page,
}) => {
  await takeIn(page, 'question.pgn', CHESS);
  const game = new URL(page.url()).pathname;
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowRight');
  await choose(page, 'Question page');
  await page.waitForURL(/question/);
  await expect(page.getByRole('heading', { name: 'White to move' })).toBeVisible();
  const raw = await (await page.request.get(page.url())).text();
  for (const text of [await page.content(), raw]) {
    expect(text).toContain('r1bqkbnr/pppp1ppp/2n5');
    expect(text).not.toMatch(/Bc4|f1c4|Bb5|Qg4|Now the point/);
  }
  await page.getByRole('link', { name: 'Show what was played' }).click();
  await page.waitForURL((url) => url.pathname === game);
  await expect(page.locator('.move.current')).toHaveText(/^Nc6/);
});

async function picturesOf(page: Page, moves: number, piece: string | null): Promise<void> {
  await choose(page, 'Share the board');
  const save = async (name: string | RegExp) => {
    const [saved] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name }).click(),
    ]);
    return saved;
  };
  const png = readFileSync(await (await save('Picture (PNG)')).path());
  expect(png.subarray(1, 4).toString()).toBe('PNG');
  expect(png.readUInt32BE(16)).toBe(640);
  const svg = await contentsOf(await save('Picture (SVG)'));
  expect(svg).not.toContain('var(--');
  expect(svg).not.toContain('<animate');
  if (piece) {
    expect(svg).toContain(piece);
    // the picture brings the font of its pieces along
    expect(svg).toContain('data:font/woff2;base64');
  }
  const run = await contentsOf(await save(`Run of the next ${moves} moves`));
  expect(run.match(/<animate /g)).toHaveLength(moves + 1);
  // both are well-formed pictures that a browser shows
  for (const text of [svg, run]) {
    const width = await page.evaluate(async (source) => {
      const image = new Image();
      image.src = URL.createObjectURL(new Blob([source], { type: 'image/svg+xml' }));
      await image.decode();
      return image.naturalWidth;
    }, text);
    expect(width).toBe(640);
  }
}

test('the board goes out as a picture and a line as a run, in both games', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'picture.pgn', CHESS);
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowRight');
  await picturesOf(page, 8, null);
  await takeIn(page, 'picture.kifu', SHOGI);
  await page.keyboard.press('ArrowRight');
  await picturesOf(page, 3, '歩');
  expect(errors).toEqual([]);
});

test('a shogi game is printed, and the board runs through a line by itself', async ({ page }) => {
  await takeIn(page, 'run.kifu', SHOGI);
  await page.getByRole('button', { name: 'Run through' }).click();
  await expect(page.locator('.move.current')).toHaveAttribute('data-ply', '2');
  await page.getByRole('button', { name: 'Stop running' }).click();
  await page.getByRole('button', { name: 'Run through' }).click();
  // at the end it stops by itself
  await expect(page.getByRole('button', { name: 'Stop running' })).toHaveCount(0);
  await expect(page.locator('.move.current')).toHaveAttribute('data-ply', '4');
  await choose(page, 'Print the game');
  await page.getByRole('article').getByRole('button', { name: '2 P-3d' }).click();
  await expect(page.getByText('静かな出だし')).toBeVisible();
  await expect(page.locator('.diagram [data-board=shogi]')).toBeVisible();
});
