import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { DEMO_STATE } from './open-demo';
import { contentsOf, kif, open, pgn, watchForErrors } from './support';

const PASSWORD = 'a long enough password';

/** Games in PGN that begin so, each of a round of its own. */
const pgnGames = (...lines: string[]): string =>
  lines
    .map((moves, index) =>
      pgn('Harbour Cup', `${moves} *`).replace('[White', `[Round "${index}"]\n[White`),
    )
    .join('\n');

const KIF_MOVES: Record<string, string> = {
  '7g7f': '７六歩(77)',
  '3c3d': '３四歩(33)',
  '2g2f': '２六歩(27)',
  '4c4d': '４四歩(43)',
  '8c8d': '８四歩(83)',
};
const kifGames = (...lines: string[]): string =>
  lines
    .map((line, index) => {
      const moves = line.split(' ').map((code, ply) => `${ply + 1} ${KIF_MOVES[code]}`);
      return kif([...moves, `${moves.length + 1} 中断`, ''].join('\n')).replace(
        '後手：',
        `後手：${index} `,
      );
    })
    .join('\n');

const times = (count: number, line: string): string[] => Array.from({ length: count }, () => line);

/** Of either game: lines to be prepared, games of a base, and an own game that leaves the lines. */
const CASES = [
  {
    kind: 'chess',
    side: 'White',
    file: 'lines.pgn',
    lines: pgnGames('1. e4 e5 2. Nf3', '1. e4 c5 2. Nf3'),
    taken: '5 moves from 2 games.',
    base: pgnGames(
      ...times(6, '1. e4 e5 2. Nf3 Nc6'),
      ...times(3, '1. e4 e6 2. d4'),
      ...times(3, '1. e4 c5 2. Nf3 d6'),
    ),
    gap: '1. e4 e6',
    missing: 'missing: 1… e6 · 25 % of 12 games',
    expected: '25',
    own: ['e2e4', 'e7e5', 'f1c4'],
    left: 'You played 2. Bc4; prepared was Nf3.',
    leftOnDesk: 'You left your preparation for White with 2. Bc4; prepared was Nf3.',
    leftInList: '2. Bc4',
    prepared: 'Nf3',
    as: 'as PGN',
    fileName: 'preparation white.pgn',
    written: '(1... c5 2. Nf3)',
  },
  {
    kind: 'shogi',
    side: 'Black',
    file: 'lines.kif',
    lines: kifGames('7g7f 3c3d 2g2f'),
    taken: '3 moves from 1 game.',
    base: kifGames(...times(9, '7g7f 3c3d 2g2f 4c4d'), ...times(3, '7g7f 8c8d')),
    gap: '1 P-7f P-8d',
    missing: 'missing: 2 P-8d · 25 % of 12 games',
    expected: '25',
    own: ['7g7f', '3c3d', '6g6f'],
    left: 'You played 3 P-6f; prepared was P-2f.',
    leftOnDesk: 'You left your preparation for Black with 3 P-6f; prepared was P-2f.',
    leftInList: '3 P-6f',
    prepared: 'P-2f',
    as: 'as KIF',
    fileName: 'preparation black.kifu',
    written: '２六歩(27)',
  },
] as const;

/** An account of its own, so that no other test's games or lines are met. */
async function newPerson(page: Page): Promise<void> {
  const name = `Prepared ${Date.now()}`;
  await page.context().clearCookies();
  const made = await page.request.post('/api/account', { data: { name, password: PASSWORD } });
  expect(made.status()).toBe(204);
}

const close = (page: Page) =>
  page.request.post('/api/account/close', { data: { password: PASSWORD } });

async function baseOf(page: Page, kind: string, file: string, text: string): Promise<void> {
  const made = await page.request.post('/api/bases', {
    data: { name: 'The club', kind, source: { from: 'files' } },
  });
  const { id } = (await made.json()) as { id: number };
  await page.request.post(`/api/imports?name=${file}&base=${id}`, { data: Buffer.from(text) });
  await expect
    .poll(
      async () =>
        ((await (await page.request.get('/api/bases')).json()) as { indexed: number }[])[0]!
          .indexed,
      { timeout: 30_000 },
    )
    .toBe(12);
}

async function ownGame(page: Page, kind: string, moves: readonly string[]): Promise<number> {
  const start =
    kind === 'chess'
      ? 'rnbqkbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1'
      : 'lnsgkgsnl/1r5b1/ppppppppp/9/9/9/PPPPPPPPP/1B5R1/LNSGKGSNL b - 1';
  const nodes = ['', ...moves].map((move, id) => ({ id, parent: id === 0 ? null : id - 1, move }));
  const sides = kind === 'chess' ? ['White', 'Black'] : ['Black', 'White'];
  const tags = sides.map((name, index) => ({ name, value: index === 0 ? 'Me Myself' : 'Other' }));
  const made = await page.request.post('/api/games', {
    data: { kind, start, nodes, tags, result: '*', end: null },
  });
  const { id } = (await made.json()) as { id: number };
  await page.request.put(`/api/games/${id}/own-side`, { data: { side: 0 } });
  return id;
}

test.use({ storageState: DEMO_STATE });

for (const one of CASES)
  test(`${one.kind}: what is prepared, what is missing, and where a game left it`, async ({
    page,
  }) => {
    test.slow();
    const errors = watchForErrors(page);
    await newPerson(page);
    const game = await ownGame(page, one.kind, one.own);
    await open(page, `/preparation?kind=${one.kind}`);
    await expect(page.getByText('Nothing is prepared here yet')).toBeVisible();
    await expect(page.getByText('no base yet')).toBeAttached();

    // lines from a file
    await page
      .getByLabel('File with lines')
      .setInputFiles({ name: one.file, mimeType: 'text/plain', buffer: Buffer.from(one.lines) });
    await expect(page.getByText(one.taken)).toBeVisible();
    await expect(page.getByText('Make a base first')).toBeVisible();

    // what is missing
    await baseOf(page, one.kind, one.file, one.base);
    await open(page, `/preparation?kind=${one.kind}`);
    const gap = page
      .getByRole('region', { name: /^Gaps/ })
      .getByRole('listitem')
      .filter({
        has: page.getByRole('link', { name: one.gap, exact: true }),
      });
    await expect(gap).toContainText('25 % of 12 games');
    await expect(gap.locator('.expected')).toHaveText(one.expected);
    await expect(page.getByRole('link', { name: one.missing })).toBeVisible();
    await page.getByLabel('Show what is to be expected').selectOption('5');
    await expect(page.getByRole('link', { name: one.missing })).toBeVisible();
    const rating = page.getByRole('group', { name: 'Opponents’ rating' });
    await rating.getByLabel('from').fill('2900');
    await rating.getByLabel('from').press('Enter');
    await expect(page).toHaveURL(/rating=2900\.\./);
    await expect(gap).toHaveCount(0);
    await page.goBack().catch(() => {});
    await open(page, `/preparation?kind=${one.kind}`);

    // where the game left it: on the page, in the list, on its Desk
    const left = page.getByRole('row').filter({ hasText: one.left });
    await expect(left).toBeVisible();
    await page.getByRole('button', { name: 'left by you: 1' }).click();
    await expect(left).toBeVisible();
    await left.getByRole('link').click();
    await page.waitForURL(new RegExp(`/games/${game}\\?node=3$`));
    const card = page.getByRole('region', { name: 'Preparation', exact: true });
    await card.getByRole('button', { name: one.leftOnDesk }).click();
    await card.getByRole('button', { name: one.prepared, exact: true }).click();
    await expect(card.getByText(/your lines end here/)).toBeVisible();

    // a line from the Desk
    await page.keyboard.press('ArrowLeft');
    await page.keyboard.press('End');
    await card.getByRole('button', { name: one.side, exact: true }).click();
    await expect(card.getByRole('status')).toContainText('1 move is new.');
    await card.getByRole('status').getByRole('link', { name: 'Open the sheet' }).click();
    await expect(page.getByRole('heading', { level: 1 })).toContainText(
      `Preparation for ${one.side}`,
    );

    // the list says where a game left it
    await open(page, '/');
    await page.getByRole('button', { name: 'Columns' }).click();
    await page.getByRole('checkbox', { name: 'Left the base' }).check();
    await page.keyboard.press('Escape');
    const row = page.getByRole('row').filter({ hasText: 'Me Myself' });
    await expect(row).toContainText(`${one.leftInList}`);
    await expect(row).toContainText(/you · usual/);

    // it goes out as a file
    await open(page, `/preparation?kind=${one.kind}`);
    const download = page.waitForEvent('download');
    await page.getByRole('link', { name: one.as }).click();
    expect(decodeURIComponent((await download).suggestedFilename())).toBe(one.fileName);
    expect(await contentsOf(await download)).toContain(one.written);

    // taken away and brought back
    await page.getByRole('button', { name: 'Remove Lines without a name' }).click();
    await expect(page.getByText('Nothing is prepared here yet')).toBeVisible();
    await page.getByRole('button', { name: 'Bring it back' }).click();
    await expect(page.getByRole('link', { name: 'Lines without a name' })).toBeVisible();
    expect(errors).toEqual([]);
    for (const colorScheme of ['light', 'dark'] as const) {
      await page.emulateMedia({ colorScheme, reducedMotion: 'reduce' });
      await expect(page.getByRole('link', { name: one.missing })).toBeVisible();
      const { violations } = await new AxeBuilder({ page }).analyze();
      expect(violations.map(({ id, nodes }) => [id, nodes[0]?.html])).toEqual([]);
    }
    await close(page);
  });

test('what is removed while the lines are still on their way is not shown', async ({ page }) => {
  await newPerson(page);
  await open(page, '/preparation?kind=chess');
  const { file, lines, taken } = CASES[0];
  await page
    .getByLabel('File with lines')
    .setInputFiles({ name: file, mimeType: 'text/plain', buffer: Buffer.from(lines) });
  await expect(page.getByText(taken)).toBeVisible();

  let isFirst = true;
  let release = (): void => undefined;
  const released = new Promise<void>((next) => (release = next));
  await page.route('**/api/preparation/tree?**', async (route) => {
    if (!isFirst) return route.continue();
    isFirst = false;
    const response = await route.fetch();
    await released;
    await route.fulfill({ response });
  });
  await open(page, '/preparation?kind=chess');
  await page.getByRole('button', { name: 'Remove Lines without a name' }).click();
  await expect(page.getByRole('button', { name: 'Bring it back' })).toBeVisible();
  release();
  await expect(page.getByText('Nothing is prepared here yet')).toBeVisible();
  await close(page);
});

test('a sheet is made by its name, and what can’t be read or taken says why', async ({ page }) => {
  await newPerson(page);
  await open(page, '/preparation?kind=chess&side=second');
  await page.getByLabel('File with lines').setInputFiles({
    name: 'letter.txt',
    mimeType: 'text/plain',
    buffer: Buffer.from('Dear Mirela, see you on Saturday.'),
  });
  await expect(page.getByText('The format is not recognised', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'Take lines' }).click();
  await expect(page.getByText('No line came up that often')).toBeVisible();
  await page.getByLabel('New sheet').fill('Against the king’s pawn');
  await page.getByRole('button', { name: 'Make it' }).click();
  await page.waitForURL(/\/games\/\d+$/);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    'Against the king’s pawn · Preparation for Black',
  );
  await open(page, '/');
  // it is no game of the library
  await expect(page.getByText('Against the king’s pawn')).toHaveCount(0);
  await close(page);
});
