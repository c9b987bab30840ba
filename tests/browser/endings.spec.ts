import { expect, test, type Page } from '@playwright/test';
import { open, sweep, takeIn, watchForErrors } from './support';

// as a new visitor finds them: cards folded
test.use({ storageState: { cookies: [], origins: [] } });
test.beforeEach(async ({ context }) => {
  await context.request.post('/api/account/demo');
});

/** A pawn that wins only if its king goes first. */
const PAWN = `[Event "Ending"]
[White "Mirela Tanase"]
[Black "Jonas Brandt"]
[Result "1/2-1/2"]
[SetUp "1"]
[FEN "4k3/8/4K3/4P3/8/8/8/8 w - - 0 1"]

1. Kf6 Kf8 2. e6 Ke8 3. e7 Kd7 4. Kf7 1/2-1/2
`;

const card = (page: Page) => page.getByRole('region', { name: 'Ending', exact: true });

test('the exact result stands beside the board, with the moves that keep it', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'ending.pgn', PAWN);
  // folded, it answers in one line
  await expect(card(page)).toContainText(/won, mate in \d+ · \d+ of \d+ moves keep it/);
  await card(page)
    .getByRole('button', { name: /^Ending/ })
    .click();
  await expect(card(page)).toContainText(/Won · mate in \d+/);
  await expect(card(page)).toContainText(/Keep it \(2\), with the moves to the mate/);
  await expect(card(page)).toContainText(/Drawn after \(2\)/);
  // it follows the board
  const before = await card(page).textContent();
  await page.keyboard.press('ArrowRight');
  await expect(card(page)).not.toHaveText(before!);
  await expect(card(page)).toContainText(/Lost · mate in \d+/);
  // one goes on against the exact answers
  await card(page).getByRole('button', { name: 'Play the longest defence' }).click();
  await expect(card(page)).toContainText(/Won · mate in \d+/);
  await card(page).getByRole('button', { name: 'Play the best' }).click();
  await expect(card(page)).toContainText(/Lost · mate in \d+/);
  await page.keyboard.press('Home');
  // beside it stands what the engine says of it
  await expect(card(page)).not.toContainText('guesses');
  const lines = page.getByRole('region', { name: 'Lines', exact: true });
  await lines.getByRole('button', { name: 'Think', exact: true }).click();
  await expect(card(page)).toContainText(/Won · mate in \d+ .*\(the engine guesses \+/);
  await lines.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(card(page)).not.toContainText('guesses');
  // and puts a move into the sheet
  await card(page).getByRole('button', { name: 'Put Kd6 into the sheet' }).click();
  await expect(page.getByRole('region', { name: 'Moves of the game' })).toContainText('Kd6');
  expect(errors).toEqual([]);
});

const ending = (event: string, fen: string, moves: string): string => `[Event "${event}"]
[White "Mirela Tanase"]
[Black "Jonas Brandt"]
[Result "*"]
[SetUp "1"]
[FEN "${fen}"]

${moves} *
`;

/** Pawns that block each other: no table has it, and little can come of it. */
const LOCKED = '8/8/4k3/4p3/4P3/4K3/8/8 w - - 0 1';
/** Pawns that can run, which takes a while. */
const RUNNING = '8/5p2/1p6/4k3/8/P3K3/6P1/8 w - - 0 1';

/** Four rooks are too much, until they are exchanged. */
const ROOKS = '3rk3/3r3p/8/8/8/8/3R3P/3RK3 w - - 0 1';

const prove = (page: Page) => card(page).getByRole('button', { name: 'Prove this position' });

test('a proof is asked for, runs to its end, and stays', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'locked.pgn', ending('Locked', LOCKED, '1. Kd3 Kd6'));
  await expect(card(page)).toContainText('4 pieces: nothing is certain yet');
  await card(page)
    .getByRole('button', { name: /^Ending/ })
    .click();
  await expect(card(page)).toContainText('About 1 second, 0 million positions');
  await prove(page).click();
  await expect(card(page)).toContainText('Drawn');
  await expect(card(page)).toContainText(/Keep it \(\d+\)/);
  await expect(prove(page)).toHaveCount(0);
  // what follows from it is known too
  await page.keyboard.press('ArrowRight');
  await expect(card(page)).toContainText('Drawn');
  // as in other games
  await takeIn(page, 'again.pgn', ending('Another', LOCKED, '1. Kf3'));
  await expect(card(page)).toContainText('Drawn');
  expect(errors).toEqual([]);
});

test('a proof that takes long says what it would take, how far it is, and can be stopped', async ({
  page,
}) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'running.pgn', ending('Running', RUNNING, '1. Kf3 Kd4'));
  await card(page)
    .getByRole('button', { name: /^Ending/ })
    .click();
  await expect(card(page)).toContainText(/About \d+ seconds for [\d.]+ million positions/);
  await prove(page).click();
  await expect(card(page).getByRole('progressbar', { name: 'Proof' })).toBeVisible();
  await expect(card(page)).toContainText(/\d+% of the work at most/);
  // it is the server's work: the page may be left
  await page.reload();
  await expect(card(page).getByRole('progressbar', { name: 'Proof' })).toBeVisible();
  await card(page).getByRole('button', { name: 'Stop' }).click();
  await expect(prove(page)).toBeVisible();
  // and nothing waits for it any more
  await takeIn(page, 'locked.pgn', ending('Behind', LOCKED.replace('4K3', '3K4'), '1. Kc4'));
  await expect(async () => {
    if (await prove(page).isVisible()) await prove(page).click();
    await expect(card(page)).toContainText('Drawn', { timeout: 5000 });
  }).toPass({ timeout: 60_000 });
  expect(errors).toEqual([]);
});

test('to a lost side it says after which moves the fewest replies win', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'lost.pgn', ending('Lost', '8/8/8/8/3k4/8/2R5/3K4 b - - 0 1', '1... Kd3'));
  await card(page)
    .getByRole('button', { name: /^Ending/ })
    .click();
  await expect(card(page)).toContainText(/Lost after \(\d\), with the moves to the mate:K/);
  await expect(card(page)).toContainText(
    /Hardest to win against, since no more than \d+ replies win:K/,
  );
  expect(errors).toEqual([]);
});

test('out of reach, a proof is said to be, and where in the game it is not', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'rooks.pgn', ending('Rooks', ROOKS, '1. Rxd7 Rxd7 2. Rxd7 Kxd7'));
  await card(page)
    .getByRole('button', { name: /^Ending/ })
    .click();
  await expect(card(page)).toContainText('A proof of this position is out of reach');
  await expect(card(page)).toContainText('Within reach from here on: ');
  await card(page).getByRole('button', { name: /xd7/ }).click();
  await expect(card(page).getByRole('button', { name: 'Prove this position' })).toBeVisible();
  expect(errors).toEqual([]);
});

/** White lets the win go at once, Black the draw; nothing else matters. */
const LET_GO = `[Event "Ending"]
[White "Mirela Tanase"]
[Black "Jonas Brandt"]
[Result "*"]
[SetUp "1"]
[FEN "4k3/8/4K3/4P3/8/8/8/8 w - - 0 1"]

1. Kf5 Kf7 2. e6+ Kf8 3. Kf6 Ke8 *
`;

test('a move that let a result go is told by what those that keep it have in common', async ({
  page,
}) => {
  await takeIn(page, 'let-go.pgn', LET_GO);
  await card(page)
    .getByRole('button', { name: /^Ending/ })
    .click();
  await expect(card(page)).toContainText(
    '1. Kf5 lets the win go. What all 2 moves that keep it have, and it has not: the king on a key square before its pawn.',
  );
  // Black’s answer keeps the draw
  await page.keyboard.press('ArrowRight');
  await expect(card(page)).toContainText('Drawn');
  await expect(card(page)).not.toContainText('lets the');
});

test('a pawn that was moved too early is told from one that was moved too late', async ({
  page,
}) => {
  await takeIn(
    page,
    'early.pgn',
    ending('Early', '8/8/8/5k2/2K5/4P3/8/8 w - - 0 1', '1. e4+ Kxe4'),
  );
  await card(page)
    .getByRole('button', { name: /^Ending/ })
    .click();
  await expect(card(page)).toContainText('1. e4+ lets the win go.');
  await expect(card(page)).toContainText('The same push keeps it a move later: 1. Kd5 Kf6 2. e4.');
});

test('of two moves that look alike the one that keeps the result is named', async ({ page }) => {
  await takeIn(page, 'alike.pgn', ending('Alike', '8/8/8/7k/5P2/2K5/8/8 w - - 0 1', '1. Kc4 Kg4'));
  await card(page)
    .getByRole('button', { name: /^Ending/ })
    .click();
  await expect(card(page)).toContainText(
    '1. Kc4 lets the win go; Kd4, with the king one square beside, keeps it.',
  );
});

test('a sweep flags what changed the exact result, and the course shows where all is certain', async ({
  page,
}) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'let-go.pgn', LET_GO);
  await page
    .getByRole('region', { name: 'Review', exact: true })
    .getByRole('button', { name: /^Review/ })
    .click();
  await sweep(page);
  const moves = page.getByRole('region', { name: 'Moves of the game' });
  const flagged = moves.getByRole('button', { name: /\?/ });
  await expect(flagged).toHaveCount(2);
  await expect(flagged.first()).toContainText(/^Kf5.*\?\?/);
  await expect(flagged.last()).toContainText(/^Kf8.*\?\?/);
  await expect(page.getByRole('region', { name: 'Lines', exact: true })).toContainText('exact');
  await page.getByRole('button', { name: 'As a table' }).click();
  const table = page.getByRole('dialog').getByRole('row');
  await expect(table.filter({ hasText: 'Kf5' })).toContainText('50');
  await expect(table.filter({ hasText: 'Kf8' })).toContainText('100');
  // from the first position to the last
  await expect(table.filter({ hasText: /\d % exact/ })).toHaveCount(7);
  expect(errors).toEqual([]);
});

/** White does not take the opposition, and then Black does not. */
const BOTH = ending('Both', '8/3k4/8/4K3/8/1P6/8/8 w - - 0 1', '1. Kd4 Kc6');

test('where both players missed the same it is said, with the way there', async ({ page }) => {
  await takeIn(page, 'both.pgn', BOTH);
  await page
    .getByRole('region', { name: 'Review', exact: true })
    .getByRole('button', { name: /^Review/ })
    .click();
  await sweep(page);
  await card(page)
    .getByRole('button', { name: /^Ending/ })
    .click();
  await expect(card(page)).toContainText('the opposition');
  await expect(card(page)).toContainText('Black missed the same:');
  await card(page).getByRole('button', { name: '1… Kc6' }).click();
  await expect(card(page)).toContainText('White missed the same:');
  await card(page).getByRole('button', { name: '1. Kd4' }).click();
  await expect(card(page)).toContainText('Black missed the same:');
});

/** Black mates with the gold in hand, and does something else. */
const MATE = `手合割：その他
後手の持駒：歩
  ９ ８ ７ ６ ５ ４ ３ ２ １
+---------------------------+
| ・ ・ ・v香v玉v香 ・ ・ ・|一
| ・ ・ ・ ・ ・ ・ ・ ・ ・|二
| ・ ・ ・ ・ 歩 ・ ・ ・ ・|三
| ・ ・ ・ ・ ・ ・ ・ ・ ・|四
| ・ ・ ・ ・ ・ ・ ・ ・ ・|五
| ・ ・ ・ ・ ・ ・ ・ ・ ・|六
| ・ ・ ・ ・ ・ ・ ・ ・ ・|七
| ・ ・ ・ ・ ・ ・ ・ ・ ・|八
| ・ ・ ・ ・ 玉 ・ ・ ・ ・|九
+---------------------------+
先手の持駒：金
先手：Mirela Tanase
後手：Aino Lehtisaari
先手番
   1 ５八玉(59)
   2 ５二歩打
`;

const mates = (page: Page) => page.getByRole('region', { name: 'Mate and impasse', exact: true });

test('in shogi mates are found, what threatens, the moves that hold, and the points of an impasse', async ({
  page,
}) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'mate.kif', MATE);
  const title = mates(page).getByRole('button', { name: /^Mate and impasse/ });
  await expect(title).toContainText('mate in 1');
  // it follows the board also while it is folded
  await page.keyboard.press('ArrowRight');
  await expect(title).toContainText(/threatened with mate in 1 · \d+ of \d+ moves hold/);
  await page.keyboard.press('ArrowRight');
  await expect(title).toContainText('no mate found');
  await title.click();
  await expect(mates(page)).toContainText('there is none at all');
  await page.keyboard.press('Home');
  await expect(mates(page)).toContainText('One move begins it:');
  await expect(mates(page)).toContainText('(none is shorter)');
  await expect(mates(page).getByRole('row', { name: /^Pieces in the camp/ })).toContainText(
    '1 of 10',
  );
  await expect(mates(page).getByRole('row', { name: /^King/ })).toContainText('6 ranks to go');
  // the mate on the board: it is over
  await mates(page).getByRole('button', { name: 'G*5b', exact: true }).first().click();
  await expect(mates(page)).toContainText('mated in 0');
  await page.keyboard.press('Home');
  await mates(page).getByRole('button', { name: 'Put the mate into the sheet' }).click();
  await expect(page.getByRole('region', { name: 'Moves of the game' })).toContainText('G*5b');
  expect(errors).toEqual([]);
});

test('a sweep of shogi flags the mate that was missed, with its length', async ({ page }) => {
  const errors = watchForErrors(page);
  await takeIn(page, 'missed.kif', MATE.replace('先手：', '棋戦：Missed\n先手：'));
  const review = page.getByRole('region', { name: 'Review', exact: true });
  await review.getByRole('button', { name: /^Review/ }).click();
  await sweep(page);
  await expect(page.getByRole('region', { name: 'Moves of the game' })).toContainText(
    'missed mate in 1',
  );
  await page.keyboard.press('Home');
  await page.keyboard.press('ArrowRight');
  // folded, it says so of the move on the board
  await review.getByRole('button', { name: /^Review/ }).click();
  await expect(review).toContainText('missed mate in 1');
  await page.getByRole('button', { name: 'As a table' }).click();
  const missed = page.getByRole('dialog').getByRole('row', { name: /missed mate in 1/ });
  await expect(missed).toHaveCount(1);
  expect(errors).toEqual([]);
});

test('the endings of one’s own games are listed by their pieces, with what was made of them', async ({
  page,
}) => {
  await takeIn(
    page,
    'own.pgn',
    LET_GO.replaceAll('*', '1/2-1/2').replace('[Event "', '[Event "Own '),
  );
  const row = page.getByRole('row', { name: /^KP – K / });
  const own = page
    .getByRole('region', { name: /^KP – K/ })
    .getByRole('link', { name: /Own / })
    .first();
  // a worker finds it within ten seconds or so
  await expect(async () => {
    await open(page, '/endings');
    await row
      .getByRole('link', { name: /of \d+/ })
      .first()
      .click({ timeout: 2000 });
    await expect(own).toBeVisible({ timeout: 2000 });
  }).toPass({ timeout: 60_000 });
  await own.click();
  await page.waitForURL(/\/games\/\d+/);
  await expect(card(page)).toContainText(/won/i);
});
