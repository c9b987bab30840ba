import { readFileSync } from 'node:fs';
import {
  expect,
  type APIRequestContext,
  type Browser,
  type BrowserContext,
  type Download,
  type Page,
} from '@playwright/test';

/** A chess game of two people as PGN; `moves` end with the result. */
export const pgn = (event: string, moves: string): string => `[Event "${event}"]
[White "Mirela Tanase"]
[Black "Jonas Brandt"]
[Result "${moves.split(/\s/).at(-1)}"]

${moves}
`;

/** A shogi game of two people as KIF; `moves` are whole lines. */
export const kif = (moves: string): string => `手合割：平手
先手：Mirela Tanase
後手：Aino Lehtisaari
${moves}`;

/** Opens a page and waits until it answers to what a person does. */
export async function open(page: Page, path: string): Promise<void> {
  await page.goto(path);
  await page.locator('html[data-bs-theme]').waitFor();
}

/** Drops a file on the page as a person does with the mouse. */
export async function dropFile(page: Page, name: string, text: string): Promise<void> {
  const data = await page.evaluateHandle(
    ([fileName, contents]) => {
      const transfer = new DataTransfer();
      transfer.items.add(new File([contents!], fileName!));
      return transfer;
    },
    [name, text],
  );
  const target = page.locator('.drop');
  await target.dispatchEvent('dragover', { dataTransfer: data });
  await target.dispatchEvent('drop', { dataTransfer: data });
}

/** Starts a quick sweep and waits until it is done, without reloading. */
export async function sweep(page: Page): Promise<void> {
  await page.getByLabel(/How long at a position/).selectOption('average nodes 100000');
  await page.getByRole('button', { name: /^Go over (this game|it again)/ }).click();
  // a short one can be over before it is seen
  const again = page.getByRole('button', { name: 'Go over it again' });
  await expect(page.locator('.sweep-progress').or(again)).toBeVisible();
  await expect(again).toBeVisible({ timeout: 90_000 });
}

export const contentsOf = async (download: Download): Promise<string> =>
  readFileSync((await download.path())!, 'utf8');

/** What must never happen on any page. */
export function watchForErrors(page: Page): string[] {
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(String(error)));
  page.on('console', (message) => {
    if (message.type() === 'error') errors.push(`${message.text()} ${message.location().url}`);
  });
  page.on('dialog', (dialog) => {
    errors.push(`dialog: ${dialog.message()}`);
    void dialog.dismiss();
  });
  return errors;
}

/** What is said of the board on the Desk to those who can't see it. */
export const boardWords = (page: Page) => page.locator('#board-words');

export const nodeInAddress = (page: Page): string | null =>
  new URL(page.url()).searchParams.get('node');

/** Takes a game in that was never here before (nobody else has its round, or its player's name) and opens it. */
export async function takeIn(page: Page, name: string, text: string): Promise<void> {
  await open(page, '/');
  const unlike = `${Date.now()}`;
  const own = text
    .replace('[White', `[Round "${unlike}"]\n[White`)
    .replace('後手：', `後手：${unlike} `);
  await dropFile(page, name, own);
  const copies = page.getByRole('button', { name: 'Keep them as copies too' });
  await Promise.race([page.waitForURL(/\/games\/\d+$/), copies.click()]);
  await page.waitForURL(/\/games\/\d+$/);
  await page.getByRole('region', { name: 'Moves of the game' }).waitFor();
}

const PASSWORD = 'a long enough password';

/** The games of a list that are in sight. */
export const rowsOf = (page: Page) => page.locator('.games-table tbody tr[data-index]');

/** A browser in which a new account is signed in, with some games in its library. */
export async function newLibrary(
  browser: Browser,
  files: readonly (readonly [name: string, text: string])[],
  name = `Librarian ${Date.now()}`,
): Promise<BrowserContext> {
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  await context.request.post('/api/account', { data: { name, password: PASSWORD } });
  for (const [file, text] of files) await send(context.request, file, text);
  return context;
}

async function send(request: APIRequestContext, name: string, text: string): Promise<void> {
  const queued = await request.post(`/api/imports?name=${name}`, { data: Buffer.from(text) });
  const { id } = (await queued.json()) as { id: number };
  const state = async (): Promise<string> =>
    ((await (await request.get(`/api/imports/${id}`)).json()) as { state: string }).state;
  await expect.poll(state, { timeout: 30_000 }).toBe('done');
}

/** Ends the account of such a browser. */
export async function closeAccount({ request }: BrowserContext): Promise<void> {
  await request.post('/api/account/close', { data: { password: PASSWORD } });
}
