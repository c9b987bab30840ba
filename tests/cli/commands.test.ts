import { spawn } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { signIn } from '@/server/accounts';
import { closeDatabase } from '@/server/database';
import { readVectors } from '../support/vectors';

interface Outcome {
  code: number | null;
  out: string;
  err: string;
}

/** Runs a command as a shell would, from another folder than the checkout. */
function bektra(args: readonly string[], input = '', env = {}): Promise<Outcome> {
  return new Promise((done) => {
    const child = spawn(process.execPath, [resolve('dist/cli.mjs'), ...args], {
      cwd: folder,
      env: { ...process.env, BEKTRA_ROOT: resolve('.'), ...env },
    });
    let out = '';
    let err = '';
    child.stdout.on('data', (piece: Buffer) => (out += piece.toString()));
    child.stderr.on('data', (piece: Buffer) => (err += piece.toString()));
    child.on('close', (code) => done({ code, out, err }));
    child.stdin.on('error', () => {});
    child.stdin.end(input);
  });
}

const folder = mkdtempSync(join(tmpdir(), 'bektra-cli-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const file = (name: string, text: string): string => {
  writeFileSync(join(folder, name), text);
  return name;
};
const jsonLines = (text: string): Record<string, unknown>[] =>
  text
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as Record<string, unknown>);

const GAME = '[White "A"]\n[Black "B"]\n\n1. e4 {good} e5 (1... c5) 2. Qh5 Ke7 3. Qxe5# 1-0\n';

describe('legal', () => {
  it('answers for each line of standard input, as known', async () => {
    const chess = readVectors<{
      fen: string;
      moves: string[];
      san: string[];
      state: string;
      check: boolean;
    }>('chess_cases.jsonl').slice(0, 40);
    const shogi = readVectors<{ sfen: string; moves: string[]; in_check: boolean; mate: boolean }>(
      'shogi_cases.jsonl',
    ).slice(0, 40);
    const lines = [...chess.map(({ fen }) => fen), ...shogi.map(({ sfen }) => sfen)];
    const { code, out } = await bektra(['legal', '--json', '-'], `${lines.join('\n')}\n`);
    expect(code).toBe(0);
    const answers = jsonLines(out) as {
      position: string;
      kind: string;
      inCheck: boolean;
      status: string;
      moves: { move: string; text: string }[];
    }[];
    chess.forEach((known, index) => {
      const answer = answers[index]!;
      expect(answer).toMatchObject({
        position: known.fen,
        kind: 'chess',
        inCheck: known.check,
        status: known.state,
      });
      expect(answer.moves.map(({ move }) => move)).toEqual(known.moves);
      expect(answer.moves.map(({ text }) => text)).toEqual(known.san);
    });
    shogi.forEach((known, index) => {
      const answer = answers[chess.length + index]!;
      expect(answer).toMatchObject({
        position: known.sfen,
        kind: 'shogi',
        inCheck: known.in_check,
      });
      expect(answer.moves.map(({ move }) => move)).toEqual(
        [...known.moves].sort((a, b) => (a < b ? -1 : 1)),
      );
    });
  });
  it('names what is wrong with a position, goes on, and says so by its exit code', async () => {
    const input = '8/8/8/8/8/8/8/8 w - - 0 1\n8/8/8/8/8/8/k7/7K w - - 0 1\n';
    const { code, out, err } = await bektra(['legal', '--json', '-'], input);
    expect(code).toBe(1);
    expect(err).toContain('white has no king');
    expect(jsonLines(out)).toHaveLength(2);
    expect(jsonLines(out)[1]).toMatchObject({ status: 'insufficient' });
  });
  it('shuffled back ranks are refused by name', async () => {
    const { code, err } = await bektra([
      'legal',
      'nrbqkbrn/pppppppp/8/8/8/8/PPPPPPPP/NRBQKBRN w GBgb - 0 1',
    ]);
    expect(code).toBe(1);
    expect(err).toContain('shuffled back rank');
  });
});

describe('ending', () => {
  const env = { BEKTRA_DATA: join(folder, 'with-endings'), BEKTRA_ENDING_PIECES: '4' };

  it('says what a position and its moves are worth, once there are tables', async () => {
    const position = '8/8/8/8/8/2k5/2p5/2K5 b - - 0 1';
    const none = { ...env, BEKTRA_ENDING_PIECES: '0' };
    const before = await bektra(['ending', '--json', position], '', none);
    expect(jsonLines(before.out)).toEqual([{ position, result: 'unknown', moves: [] }]);
    // without tables: results, and no distances
    const rooks = 'r7/8/8/8/8/2k5/8/K6R w - - 0 1';
    const [shipped] = jsonLines((await bektra(['ending', '--json', rooks], '', env)).out) as {
      moves: { move: string }[];
    }[];
    expect(shipped).toMatchObject({ position: rooks, result: 'draw' });
    expect(shipped!.moves).toEqual([{ move: 'a1b1', result: 'draw' }]);

    const built = await bektra(['endings', 'build', '--pieces', '3'], '', env);
    expect(built).toMatchObject({ code: 0 });
    expect(built.out).toContain('5 sets');
    const again = await bektra(['endings', 'build', '--pieces', '3'], '', env);
    expect(again.out).toContain('All ending tables are there');

    const asked = ['8/8/8/8/8/2k5/7r/K7 b - - 0 1', '8/8/8/8/8/1k6/8/K6r w - - 0 1', position];
    const { code, out } = await bektra(['ending', '--json', '-'], asked.join('\n'), env);
    expect(code).toBe(0);
    const [open, mated, pawn] = jsonLines(out) as {
      result: string;
      distance?: number;
      moves: { move: string; result: string; distance?: number }[];
    }[];
    expect(open).toMatchObject({ result: 'win' });
    // the best first; a distance is that of the position behind the move
    expect(open!.moves[0]).toMatchObject({ result: 'win', distance: open!.distance! - 1 });
    // the rook is given away
    expect(open!.moves).toContainEqual({ move: 'h2a2', result: 'draw' });
    expect(mated).toMatchObject({ result: 'loss', distance: 0, moves: [] });
    // a table that is damaged says so, and is made anew
    const table = join(folder, 'with-endings/endings/KRK.ending');
    writeFileSync(table, 'nothing');
    const damaged = await bektra(['ending', asked[0]!], '', env);
    expect(damaged.code).toBe(3);
    expect(damaged.err).toContain('KRK.ending is damaged; ./bektra endings build');
    expect((await bektra(['endings', 'build', '--pieces', '3'], '', env)).out).toContain('1 set,');
    expect((await bektra(['ending', asked[0]!], '', env)).out).toContain('win');
    expect(pawn!.moves.every(({ result }) => ['win', 'draw', 'loss'].includes(result))).toBe(true);
  });

  it('solves one position with no more than can be reached from it', async () => {
    const blocked = '8/8/4k3/4p3/4P3/4K3/8/8 w - - 0 1';
    const known = await bektra(['ending', blocked, '--prove'], '', env);
    expect([known.err, known.out]).toEqual(['', expect.stringMatching(/^draw\n/)]);
    const { code, out, err } = await bektra(['ending', blocked, '--prove', '--json'], '', {
      ...env,
      BEKTRA_ENDING_PIECES: '3',
    });
    expect(code).toBe(0);
    expect(err).toContain('1 slice, ');
    expect(jsonLines(out)).toMatchObject([{ position: blocked, result: 'draw' }]);
    // it stays
    const again = await bektra(['ending', blocked, '--prove'], '', env);
    expect(again.err).toBe('');
    expect(again.out).toMatch(/^draw\n/);
    for (const beyond of [
      'rnbqkbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1',
      '4k3/8/8/8/8/8/8/4K2R w K - 0 1',
    ]) {
      const refused = await bektra(['ending', beyond, '--prove'], '', env);
      expect(refused.code).toBe(1);
      expect(refused.err).toContain('Out of reach');
    }
  });

  it('says what it can’t answer', async () => {
    const shogi = await bektra(['ending', 'startpos'], '', env);
    expect(shogi.code).not.toBe(null);
    const bad = await bektra(['ending', '8/8/8 w'], '', env);
    expect(bad.code).toBe(1);
    expect(bad.err).toContain('8/8/8 w');
    expect((await bektra(['endings', 'burn'], '', env)).err).toContain('endings build');
    expect((await bektra(['endings', 'pack'], '', env)).err).toContain('endings pack --out FILE');
    expect((await bektra(['endings', 'build', '--pieces', '5'], '', env)).err).toContain(
      '--pieces',
    );
  });
});

describe('mate', () => {
  const GOLD = '3lkl3/9/4P4/9/9/9/9/9/4K4 b G 1';

  it('finds the shortest mate of either game, and says what none means', async () => {
    const back = '6k1/5ppp/8/8/8/8/8/R5K1 w - - 0 1';
    const none = '4k4/9/9/9/9/9/9/9/4K4 b P 1';
    const { code, out } = await bektra(['mate', '--json', '-'], [GOLD, back, none].join('\n'));
    expect(code).toBe(0);
    expect(jsonLines(out)).toEqual([
      { mate: 1, proven: true, first: ['G*5b'], line: ['G*5b'], nodes: expect.any(Number) },
      { mate: 1, proven: true, first: ['a1a8'], line: ['a1a8'], nodes: expect.any(Number) },
      { mate: null, proven: true, first: [], line: [], nodes: expect.any(Number) },
    ]);
    expect((await bektra(['mate', GOLD])).out).toBe('mate in 1 plies: G*5b\nbegins with: G*5b\n');
    expect((await bektra(['mate', none])).out).toBe('no mate at all\n');
    const quiet = '8/8/8/8/8/1k6/8/K6r b - - 0 1';
    expect((await bektra(['mate', quiet.replace('/K6r b', '/K7 b')])).out).toBe(
      'no mate within 7 plies\n',
    );
  });

  it('stops where it is told to', async () => {
    const problem = (await bektra(['compose', '5', '--seed', '3'])).out.trim();
    expect(jsonLines((await bektra(['mate', problem, '--json'])).out)).toMatchObject([
      { mate: 5, proven: true },
    ]);
    expect((await bektra(['mate', problem, '--plies', '3'])).out).toBe('no mate within 3 plies\n');
    expect((await bektra(['mate', problem, '--nodes', '3'])).out).toMatch(
      /^no mate found within \d+ positions\n$/,
    );
  });

  it('says what it can’t take', async () => {
    const even = await bektra(['mate', GOLD, '--plies', '4']);
    expect(even).toMatchObject({ code: 2 });
    expect(even.err).toContain('--plies 7');
    expect((await bektra(['mate', '9/9 b'])).code).toBe(1);
    for (const plies of ['4', '27', 'x'])
      expect((await bektra(['compose', plies])).err).toContain('odd number up to 25');
  });
});

describe('perft', () => {
  it.each([[], ['--engine']])('counts %j', async (...flags) => {
    const start = 'lnsgkgsnl/1r5b1/ppppppppp/9/9/9/PPPPPPPPP/1B5R1/LNSGKGSNL b - 1';
    expect(await bektra(['perft', start, '3', ...flags])).toMatchObject({
      code: 0,
      out: '25470\n',
    });
  });
  it('wants a depth', async () => {
    expect((await bektra(['perft', 'startpos', 'deep'])).code).toBe(2);
  });
});

describe('convert', () => {
  it('to JSON tells the main line and counts the rest', async () => {
    const { code, out } = await bektra(['convert', file('a.pgn', GAME), '-', '--to', 'json']);
    expect(code).toBe(0);
    expect(jsonLines(out)).toEqual([
      {
        kind: 'chess',
        tags: { White: 'A', Black: 'B' },
        start: 'rnbqkbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1',
        moves: ['e2e4', 'e7e5', 'd1h5', 'e8e7', 'h5e5'],
        variations: 1,
        comments: 1,
        result: '1-0',
        end: 'checkmate',
      },
    ]);
  });
  it('by the endings of names, and through pipes', async () => {
    const kif =
      '手合割：平手\n先手：佐倉 結\n   1 ７六歩(77)   ( 0:16/00:00:16)\n*words\n   2 投了\n';
    await bektra(['convert', file('a.kifu', kif), 'a.csa']);
    const csa = readFileSync(join(folder, 'a.csa'), 'utf8');
    expect(csa).toContain('+7776FU\nT16\n');
    expect(csa).toContain('%TORYO');
    const piped = await bektra(['convert', '-', '-', '--from', 'csa', '--to', 'sfen'], csa);
    expect(piped.out).toBe(
      'lnsgkgsnl/1r5b1/ppppppppp/9/9/9/PPPPPPPPP/1B5R1/LNSGKGSNL b - 1 moves 7g7f\n',
    );
    expect(piped.err).toContain('not held by sfen');
    await bektra(['convert', 'a.csa', 'b.kif']);
    const bytes = readFileSync(join(folder, 'b.kif'));
    expect(new TextDecoder('shift_jis', { fatal: true }).decode(bytes)).toContain('先手：佐倉 結');
  });
  it('keeps the good games, names the place of the bad ones, and fails', async () => {
    const bad = `${GAME}\n[White "C"]\n\n1. e4 e5 2. Ke3 *\n\n[White "D"]\n\n1. d4 *\n`;
    const { code, out, err } = await bektra(['convert', file('bad.pgn', bad), '-', '--to', 'json']);
    expect(code).toBe(1);
    expect(jsonLines(out)).toHaveLength(2);
    expect(err).toContain('bad.pgn:8:13: game 2: 2. Ke3 is not legal');
  });
  it('leaves nothing half-written behind', async () => {
    const { code } = await bektra(['convert', file('a.pgn', GAME), 'out.kif']);
    expect(code).toBe(2);
    expect(readdirSync(folder).filter((name) => name.startsWith('out.kif'))).toEqual([]);
    expect((await bektra(['convert', 'missing.pgn', '-', '--to', 'json'])).code).toBe(3);
    expect((await bektra(['convert', file('empty.pgn', ''), '-', '--to', 'json'])).code).toBe(1);
    expect((await bektra(['convert', 'a.pgn', '-'])).code).toBe(2);
  });
  it('is not upset by a reader that goes away', async () => {
    const many = file('many.pgn', GAME.repeat(3000));
    const code = await new Promise((done) => {
      const child = spawn(
        'sh',
        [
          '-c',
          `"${process.execPath}" "${resolve('dist/cli.mjs')}" convert ${many} - --to json | head -n 1`,
        ],
        {
          cwd: folder,
          stdio: ['ignore', 'ignore', 'pipe'],
        },
      );
      let err = '';
      child.stderr.on('data', (piece: Buffer) => (err += piece.toString()));
      child.on('close', (exit) => done(`${exit}${err}`));
    });
    expect(code).toBe('0');
  });
});

describe('review', () => {
  it('finds the blunder and the better line, the same every time', async () => {
    const args = ['review', file('a.pgn', GAME), '--depth', '6', '--json'];
    const first = await bektra(args);
    expect(first.code).toBe(0);
    const [game] = jsonLines(first.out) as {
      moves: { verdict: string; betterLine: string[]; ply: number }[];
      course: { chance: number }[];
    }[];
    const blunder = game!.moves[3]!;
    expect(blunder).toMatchObject({ verdict: 'blunder', ply: 4, isTurningPoint: true });
    expect(blunder.betterLine.length).toBeGreaterThan(2);
    expect(game!.course.at(-1)!.chance).toBe(100);
    expect((await bektra(args)).out).toBe(first.out);
  });
  it('says it in words too', async () => {
    const { out } = await bektra(['review', file('a.pgn', GAME), '--nodes', '3000']);
    expect(out).toMatch(/2… Ke7 \?\? {2}−\d+ chance {2}better: /);
    expect(out).toMatch(/white: accuracy \d+\.\d ± \d+\.\d \(3 moves\)/);
  });
  it('finds the same with several engines, and when it goes on where it was killed', async () => {
    const other = GAME.replace('2. Qh5 Ke7 3. Qxe5#', '2. Nf3 Nc6 3. Bb5 a6');
    const bad = GAME.replace('2. Qh5', '2. Qh6');
    const source = file('three.pgn', [GAME, bad, other].join('\n'));
    const args = ['review', source, '--nodes', '2000', '--json'];
    const plain = await bektra(args);
    expect(plain.code).toBe(1);
    const lines = jsonLines(plain.out);
    expect(lines.map(({ game }) => game)).toEqual([1, 2, 3]);
    expect(lines[0]).toMatchObject({
      settings: 'average nodes 2000',
      accuracy: [{ moves: 3 }, { moves: 2 }],
      summary: { trend: { side: 0 } },
    });
    expect(lines[1]).toMatchObject({ problem: { code: 'move.illegal', place: { game: 2 } } });
    expect((await bektra([...args, '--jobs', '2'])).out).toBe(plain.out);

    const out = ['--out', 'three.jsonl'];
    expect((await bektra([...args, ...out])).code).toBe(1);
    const whole = readFileSync(join(folder, 'three.jsonl'), 'utf8');
    expect(whole).toBe(plain.out);
    // what is there is not overwritten unasked
    expect(await bektra([...args, ...out])).toMatchObject({
      code: 2,
      err: expect.stringContaining('--resume') as string,
    });
    // killed in the middle of a line
    for (const length of [0, 40, whole.indexOf('\n') + 1, whole.length - 9]) {
      file('three.jsonl', whole.slice(0, length));
      await bektra([...args, ...out, '--resume']);
      expect(readFileSync(join(folder, 'three.jsonl'), 'utf8')).toBe(whole);
    }
    // with other settings it would be no whole
    const deeper = ['review', source, '--nodes', '3000', '--json', ...out, '--resume'];
    expect(await bektra(deeper)).toMatchObject({
      code: 2,
      err: expect.stringContaining('other settings: average nodes 2000') as string,
    });
    file('three.jsonl', '{"some": "thing"}\n');
    expect((await bektra([...args, ...out, '--resume'])).err).toContain('not written by review');
    expect(readFileSync(join(folder, 'three.jsonl'), 'utf8')).toBe('{"some": "thing"}\n');
  });
  it.each([
    ['--depth 5 --nodes 9'],
    ['--preset quick --nodes 900'],
    ['--preset long'],
    ['--lines 2'],
    ['--out a.jsonl'],
    ['--json --resume'],
  ])('refuses %s', async (options) => {
    expect((await bektra(['review', 'a.pgn', ...options.split(' ')])).code).toBe(2);
  });
});

describe('match', () => {
  it('tells how it came out, with its error bars', async () => {
    const { code, out } = await bektra([
      ...['match', 'shogi', 'current', 'current@nodes=60'],
      ...['--games', '2', '--nodes', '600', '--sprt=-5,10'],
    ]);
    expect(code).toBe(0);
    expect(out).toMatch(
      /^shogi, current against current@nodes=60: 2 games: \d won, \d drawn, \d lost; score \d+\.\d % \(95 %: .*\), Elo .*, likelihood ratio -?\d\.\d\d of ±2\.94\n$/,
    );
  });
  it('ends a search at the first of several limits', async () => {
    // at a billion nodes a move it would not end
    const { code, out } = await bektra([
      ...['match', 'chess', 'current@nodes=1000000000,depth=2', 'current@depth=2'],
      ...['--games', '2'],
    ]);
    expect(code).toBe(0);
    expect(out).toContain(': 2 games: ');
  });
});

describe('worker', () => {
  const withDatabase = (url: string) => ({ BEKTRA_DATABASE_URL: url, BEKTRA_DATA: folder });

  it('says what to do where there is no database, or none that answers', async () => {
    const none = await bektra(['worker'], '', withDatabase(''));
    expect(none.code).toBe(3);
    expect(none.err).toContain('Start Bektra with ./bektra start');
    const away = await bektra(['worker'], '', withDatabase('postgres://a:b@127.0.0.1:1/none'));
    expect(away.code).toBe(3);
    expect(away.err).toContain('does not answer');
  });
});

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('base', { timeout: 120_000 }, () => {
  const name = `CLI ${Date.now()}`;
  const game = (index: number, moves: string, result: string, rating: number) =>
    `[White "Strong"]\n[Black "Other"]\n[WhiteElo "${rating}"]\n[Date "20${10 + index}.01.01"]\n[Round "${index}"]\n[Result "${result}"]\n\n${moves} ${result}\n\n`;
  const START = 'rnbqkbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1';

  it('build takes games in, the same ones once; ask answers for each line of standard input', async () => {
    const first = file(
      'base1.pgn',
      game(0, '1. e4 e5', '1-0', 2400) +
        game(1, '1. e4 c5', '0-1', 2500) +
        '[White "X"]\n\n1. Qh5 *\n',
    );
    const built = await bektra(['base', 'build', name, first]);
    expect(built.code).toBe(1);
    expect(built.out).toContain('2 games new, 0 there already, 1 left out');
    expect(built.err).toContain('base1.pgn: game 3:');
    const more = [
      game(1, '1. e4 c5', '0-1', 2500),
      game(2, '1. d4 d5', '1/2-1/2', 2000),
      game(3, '1. e4 e5', '*', 2300),
    ];
    const again = await bektra(['base', 'build', name, file('base2.pgn', more.join(''))]);
    expect(again).toMatchObject({ code: 0 });
    expect(again.out).toContain('2 games new, 1 there already, 0 left out');

    const asked = await bektra(
      ['base', 'ask', name, '--json', '-'],
      `${START}\n8/8/8/8/8/8/8/K1k5 w - - 0 1\nlnsgkgsnl/1r5b1/ppppppppp/9/9/9/PPPPPPPPP/1B5R1/LNSGKGSNL b - 1\nrnbqkbnr/pppp1ppp/8/4p3/4P3/8/PPPP1PPP/RNBQKBNR w KQkq - 0 2\n`,
    );
    expect(asked.code).toBe(1);
    expect(asked.err).toContain('this is no position of chess');
    expect(jsonLines(asked.out)).toEqual([
      {
        games: 4,
        moves: [
          {
            move: 'e2e4',
            games: 3,
            wins: 1,
            draws: 0,
            losses: 1,
            score: 50,
            rating: 2400,
            first: 2010,
            last: 2013,
          },
          {
            move: 'd2d4',
            games: 1,
            wins: 0,
            draws: 1,
            losses: 0,
            score: 50,
            rating: 2000,
            first: 2012,
            last: 2012,
          },
        ],
      },
      { games: 0, moves: [] },
      { error: 'this is no position of its game' },
      { games: 2, moves: [] },
    ]);
    const plain = await bektra(['base', 'ask', name, START]);
    expect(plain).toMatchObject({ code: 0, err: '' });
    expect(plain.out).toBe(
      '4 games\ne2e4\t3\t50\t2400\t2010\t2013\nd2d4\t1\t50\t2000\t2012\t2012\n',
    );
  });

  it.each([
    [['base'], 2, 'base build NAME FILE'],
    [['base', 'build', 'x'], 2, 'base build NAME FILE'],
    [['base', 'ask', 'no such base', START], 1, 'no base of the name no such base'],
    [['base', 'ask', 'x', START, '--account', 'nobody at all'], 1, 'no account of the name nobody'],
    [['base', 'build', 'x', 'missing.pgn'], 3, 'missing.pgn'],
  ] as const)('%j is refused', async (words, code, said) => {
    const refused = await bektra([...words]);
    expect(refused.err).toContain(said);
    expect(refused.code).toBe(code);
  });
});

describe.skipIf(!process.env.BEKTRA_DATABASE_URL)('account', () => {
  afterAll(closeDatabase);
  const passwordIn = ({ out }: Outcome): string => /^Password: (\S+)$/m.exec(out)![1]!;
  const mayEnter = async (name: string, password: string): Promise<boolean> =>
    typeof (await signIn(name, password)) !== 'string';

  it('make makes one, whose password it tells; reset gives it another', async () => {
    const name = `Club ${Date.now()}`;
    const made = await bektra(['account', 'make', name]);
    expect(made).toMatchObject({ code: 0, err: '' });
    expect(await mayEnter(name, passwordIn(made))).toBe(true);
    const twice = await bektra(['account', 'make', name]);
    expect(twice).toMatchObject({ code: 1, out: '' });
    expect(twice.err).toContain(`There is an account of the name ${name} already.`);
    const reset = await bektra(['account', 'reset', name]);
    expect(reset).toMatchObject({ code: 0, err: '' });
    expect(await mayEnter(name, passwordIn(made))).toBe(false);
    expect(await mayEnter(name, passwordIn(reset))).toBe(true);
  });

  it.each([
    [['account'], 2, 'account make|reset NAME'],
    [['account', 'drop', 'Somebody'], 2, 'account make|reset NAME'],
    [['account', 'make'], 2, 'account make|reset NAME'],
    [['account', 'make', 'x'], 2, 'A name has 2 to 40 characters'],
    [['account', 'reset', 'nobody at all'], 1, 'no account of the name nobody at all'],
  ] as const)('%j is refused', async (words, code, said) => {
    const refused = await bektra([...words]);
    expect(refused).toMatchObject({ code, out: '' });
    expect(refused.err).toContain(said);
  });
});

describe('options', () => {
  it.each([
    ['review a.pgn --depth deep', '--depth: a whole number from 1 to 126'],
    ['review a.pgn --lines 9', '--lines: a whole number from 1 to 8'],
    ['match chess current current --games 0', '--games: a whole number from 1 to 1000000'],
    ['match chess current current --games 1.5', '--games: a whole number'],
    ['match chess current current --concurrency many', '--concurrency: a whole number'],
    ['match chess current current --sprt=10,-5', '--sprt: two Elo differences'],
    ['match chess current current@nodes=x', '@nodes: a whole number'],
    ['match chess current current@speed=9', 'speed'],
    ['train chess --trust 2', '--trust: a number from 0 to 1'],
  ])('that make no sense are named, and what they take: %s', async (words, said) => {
    const { code, out, err } = await bektra(words.split(' '));
    expect({ code, out }).toEqual({ code: 2, out: '' });
    expect(err).toContain(said);
  });
});

describe('other words', () => {
  it('engine speaks on standard input and output', async () => {
    const { code, out } = await bektra(
      ['engine', 'shogi'],
      'usi\nisready\nposition startpos\ngo depth 3\n',
    );
    expect(code).toBe(0);
    expect(out).toMatch(/usiok\nreadyok\n(?:info .*\n)+bestmove /);
  });
  it('engine ends at quit, though its input stays open', async () => {
    const child = spawn(process.execPath, [resolve('dist/cli.mjs'), 'engine', 'chess'], {
      env: { ...process.env, BEKTRA_ROOT: resolve('.') },
      stdio: ['pipe', 'ignore', 'inherit'],
    });
    child.stdin.write('uci\nposition startpos\ngo infinite\n');
    await new Promise((next) => setTimeout(next, 500));
    child.stdin.write('quit\n');
    expect(await new Promise((done) => child.once('exit', done))).toBe(0);
  });

  it.each(['start', 'convert', 'legal', 'engine', 'restore', 'bench', 'match'])(
    '%s --help says how it is used, and does nothing',
    async (name) => {
      const { code, out, err } = await bektra([name, '--help']);
      expect({ code, err }).toEqual({ code: 0, err: '' });
      expect(out).toMatch(new RegExp(`^ {2}\\./bektra ${name}\\b`));
      expect(out.split('\n').length).toBeLessThan(4);
    },
  );

  it('help, and mistakes in the command', async () => {
    expect((await bektra(['help'])).out).toContain('./bektra start');
    expect(await bektra(['strat'])).toMatchObject({ code: 2, out: '' });
    expect((await bektra(['legal', '--what'])).code).toBe(2);
    expect((await bektra(['engine', 'go'])).code).toBe(2);
  });
});
