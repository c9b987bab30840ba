import { expect, test, type Browser, type Page } from '@playwright/test';
import { contentsOf, dropFile, kif, open, pgn, watchForErrors } from './support';

const PASSWORD = 'a long enough password';
const unlike = (name: string): string => `${name} ${Date.now()}`;

/** A browser in which nobody is signed in. */
async function newBrowser(browser: Browser): Promise<Page> {
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  return context.newPage();
}

async function signUp(page: Page, name: string): Promise<void> {
  await open(page, '/');
  await page.getByRole('button', { name: 'New here? Make an account' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Make an account' }).click();
  await expect(page.getByRole('button', { name })).toBeVisible();
}

async function signIn(page: Page, name: string, password: string): Promise<void> {
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Password').fill(password);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
}

async function signOut(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name }).click();
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page).toHaveURL(/sign-in/);
}

async function closeAccount(page: Page): Promise<void> {
  await open(page, '/account');
  const section = page.getByRole('region', { name: 'Delete the account' });
  await section.getByLabel('Password').fill(PASSWORD);
  await section.getByRole('button', { name: 'Delete everything' }).click();
  await expect(page).toHaveURL(/sign-in/);
}

const GAMES = [
  ['chess', 'a.pgn', pgn('Club', '1. e4 e5 2. Nf3 Nc6 1-0'), 'Mirela Tanase'],
  ['shogi', 'a.kifu', kif('   1 ７六歩(77)\n   2 ３四歩(33)\n   3 投了'), 'Mirela Tanase'],
] as const;

test('an account is made, left, come back to and deleted with all that is in it', async ({
  browser,
}) => {
  const page = await newBrowser(browser);
  const errors = watchForErrors(page);
  const name = unlike('Aino');
  await signUp(page, name);
  for (const [, file, text] of GAMES) {
    await open(page, '/');
    await dropFile(page, file, text);
    await expect(page).toHaveURL(/games\/\d+/);
  }
  await open(page, '/account');
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Take everything out' }).click();
  expect((await contentsOf(await download)).slice(0, 2)).toBe('PK');

  const change = page.getByRole('region', { name: 'Change the password' });
  await change.getByLabel('Present password').fill('not this one');
  await change.getByLabel('New password').fill('another long password');
  await change.getByRole('button', { name: 'Change' }).click();
  await expect(change.getByRole('alert')).toContainText('do not go together');
  await change.getByLabel('Present password').fill(PASSWORD);
  await change.getByRole('button', { name: 'Change' }).click();
  await expect(change.getByText('Changed.')).toBeVisible();

  // a link from before leads to where it led, once somebody has signed in
  await open(page, '/');
  const game = page.locator('.games-table tbody a').first();
  const address = (await game.getAttribute('href'))!;
  await signOut(page, name);
  await page.goto(address);
  await signIn(page, name, PASSWORD);
  await expect(page.locator('main').getByRole('alert')).toContainText('do not go together');
  await signIn(page, name.toUpperCase(), 'another long password');
  await expect(page).toHaveURL(new RegExp(address));
  await expect(page.locator('.sheet-rows .move').first()).toBeVisible();

  await open(page, '/account');
  const section = page.getByRole('region', { name: 'Delete the account' });
  await section.getByLabel('Password').fill('another long password');
  await section.getByRole('button', { name: 'Delete everything' }).click();
  await expect(page).toHaveURL(/sign-in/);
  await signIn(page, name, 'another long password');
  await expect(page.locator('main').getByRole('alert')).toContainText('do not go together');
  expect(errors.filter((error) => !error.includes('403'))).toEqual([]);
});

test('the demo is opened by one button, with games of both kinds and those of a student', async ({
  browser,
}) => {
  const page = await newBrowser(browser);
  const errors = watchForErrors(page);
  await open(page, '/');
  await page.getByRole('button', { name: 'Open the demo games' }).click();
  await expect(page.getByRole('heading', { name: 'Games', exact: true })).toBeVisible();
  const rows = page.locator('.games-table tbody tr[data-index]');
  for (const kind of ['chess', 'shogi']) {
    await open(page, `/?kind=${kind}`);
    await expect(rows.first()).toContainText('Mirela Tanase');
  }
  await open(page, '/given');
  await expect(page.getByRole('strong').filter({ hasText: 'To show Nele' })).toBeVisible();
  await page.getByRole('link', { name: 'All games' }).click();
  await expect(page.getByRole('heading', { name: 'All games of Nele Hartog' })).toBeVisible();
  await expect(rows.filter({ hasText: 'Shogi' }).first()).toBeVisible();
  await rows.filter({ hasText: 'Chess' }).first().getByRole('link').first().click();
  await expect(page.locator('.sheet-rows .move').first()).toBeVisible();
  expect(errors).toEqual([]);
});

for (const [kind, file, text] of GAMES)
  test(`a ${kind} game is given to a coach who writes into it, and to whoever has a link`, async ({
    browser,
  }) => {
    const [student, coach, visitor] = await Promise.all([1, 2, 3].map(() => newBrowser(browser)));
    const names = [unlike('Student'), unlike('Coach')] as const;
    await signUp(student!, names[0]);
    await signUp(coach!, names[1]);
    await open(student!, '/');
    await dropFile(student!, file, text);
    await expect(student!).toHaveURL(/games\/\d+/);
    await expect(student!.locator('.sheet-rows .move').first()).toBeVisible();
    const address = new URL(student!.url()).pathname;
    await student!.request.put(`/api${address}/own-side`, { data: { side: 0 } });
    await student!.reload();

    await coach!.goto(address);
    await expect(coach!.getByRole('heading', { name: 'Nothing here' })).toBeVisible();

    await student!.getByRole('button', { name: 'Share' }).click();
    await student!.getByRole('button', { name: 'Give to others' }).click();
    const dialog = student!.getByRole('dialog');
    await dialog.getByLabel('Exact name').fill('Nobody of that name');
    await dialog.getByRole('button', { name: 'Give', exact: true }).click();
    await expect(dialog.getByRole('alert')).toContainText('no account of that name');
    await dialog.getByLabel('Exact name').fill(names[1]);
    await dialog.getByLabel('They may').selectOption('comment');
    await dialog.getByRole('button', { name: 'Give', exact: true }).click();
    await expect(dialog.getByText(`to ${names[1]}, who may look and comment`)).toBeVisible();
    await dialog.getByLabel('To whom').selectOption('false');
    await dialog.getByRole('button', { name: 'Make a link' }).click();
    const link = (await dialog.getByRole('listitem').getByRole('link').textContent())!;
    await student!.keyboard.press('Escape');

    // the coach finds it in the list, and writes: the student sees it at once
    await open(coach!, '/given');
    await coach!.getByRole('link', { name: 'Mirela Tanase' }).click();
    await expect(coach!.getByText('You may write words, signs and variations.')).toBeVisible();
    // the side is the student's, not the coach's
    await expect(student!.locator('.board-side').getByText('you', { exact: true })).toBeVisible();
    await expect(coach!.locator('.board-side').getByText('you', { exact: true })).toHaveCount(0);
    await coach!.locator('.sheet-rows .move').first().click();
    await coach!.keyboard.press('c');
    await coach!.getByRole('textbox', { name: /after/i }).fill('Think of the centre here.');
    await coach!.keyboard.press('Control+Enter');
    await expect(student!.getByText('Think of the centre here.')).toBeVisible();
    // what changes the game itself is not done, and said
    await coach!.keyboard.press('Control+Delete');
    await coach!.getByRole('button', { name: 'Line', exact: true }).click();
    await coach!.getByRole('button', { name: /Delete from here/ }).click();
    await expect(coach!.locator('main').getByRole('alert')).toContainText(
      'the game itself stays as it is',
    );
    await expect(coach!.locator('.sheet-rows .move').first()).toBeVisible();

    // a visitor looks, and keeps nothing
    await visitor!.goto(link);
    await expect(
      visitor!.getByText('You may look; what you enter here is not kept.'),
    ).toBeVisible();
    await expect(visitor!.getByText('Think of the centre here.')).toBeVisible();
    await expect(visitor!.getByRole('button', { name: /Go over/ })).toHaveCount(0);

    await open(student!, '/given');
    const withdraw = student!.getByRole('button', { name: 'Withdraw' });
    await expect(withdraw).toHaveCount(2);
    await withdraw.first().click();
    await expect(withdraw).toHaveCount(1);
    await withdraw.click();
    await expect(student!.getByText('Only you can see this so far.')).toBeVisible();
    await visitor!.reload();
    await expect(visitor!).toHaveURL(/sign-in/);
    await coach!.goto(address);
    await expect(coach!.getByRole('heading', { name: 'Nothing here' })).toBeVisible();
    await Promise.all([student!, coach!].map(closeAccount));
  });
