import { execFile } from 'node:child_process';
import { readFile, stat } from 'node:fs/promises';
import { setTimeout } from 'node:timers/promises';
import { promisify } from 'node:util';
import * as z from 'zod';
import { isRead } from '@/core/notation/reading';
import { GAME_KINDS, type GameKind, type Position } from '@/core/game/ruleset';
import { mainLine, positionsAlong } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';
import type { Answer } from '@/core/ask/question';
import type { Engine } from '@/engine/contract';
import { startExternal } from '@/engine/hosts/external';
import { loadSearch, startEngine } from '@/engine/hosts/node';
import { randomSource } from '@/engine/draw';
import type { SearchHost, SearchModule } from '@/engine/search-module';
import { ENGINE_FILES } from '../engine-files';
import { gamesOf } from '../source';
import { readSuite } from '../suite';
import { bestOf, perSecond, report } from './figures';

const root = process.env.BEKTRA_ROOT ?? process.cwd();
/** How long a process has searched when it is stopped for the first time: milliseconds. */
const FIRST_STOPS = [0, 5, 20, 60, 150];
const HOST: SearchHost = { shouldStop: () => false, now: () => performance.now() };

const median = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

/** Quiet positions from the middle of the demo games. */
async function middlegames(kind: GameKind, count: number): Promise<string[]> {
  const files =
    kind === 'chess'
      ? ['harbour-league-2025.pgn', 'lakeside-rapid.pgn']
      : ['lantern-circle-ladder.kifu'];
  const ruleset = rulesetOf(kind);
  const found: string[] = [];
  for (const file of files)
    for await (const reading of gamesOf(`${root}/demo/games/${file}`)) {
      if (!isRead(reading) || found.length === count) continue;
      const { tree } = reading.record;
      const line = mainLine(tree);
      const positions = positionsAlong(ruleset, tree.start, line);
      for (let ply = 24; ply + 1 < positions.length; ply++) {
        const [before, after] = [positions[ply]!, positions[ply + 1]!];
        const balance = (position: Position): string =>
          JSON.stringify(ruleset.materialBalance(position));
        if (ruleset.inCheck(before) || ruleset.inCheck(after) || balance(before) !== balance(after))
          continue;
        found.push(ruleset.write(before));
        break;
      }
    }
  return found;
}

const rootOf = (kind: GameKind, position: string) =>
  rulesetOf(kind).searchRoot(rulesetOf(kind).start(position), []);

/** Leaf counts with every last move played and taken back, beside a native program that answers to `perft N`. */
async function benchPerft(kind: GameKind, search: SearchModule, other?: string): Promise<void> {
  const depth = kind === 'chess' ? 5 : 4;
  const start = rulesetOf(kind).startText;
  const count = search.perft(start, depth);
  let own = 0;
  let others = 0;
  for (let round = 0; round < 5; round++) {
    own = Math.max(own, count / bestOf(2, () => void search.perft(start, depth)));
    if (other) others = Math.max(others, await perftOf(other, depth + 1));
  }
  report(`${kind} perft, every leaf`, perSecond(own, 1));
  if (other) {
    report(`  ${other}`, perSecond(others, 1));
    report('  ratio', (own / others).toFixed(2));
  }
}

async function perftOf(command: string, depth: number): Promise<number> {
  const child = promisify(execFile)(command, []);
  child.child.stdin!.end(`perft ${depth}\nquit\n`);
  const { stdout } = await child;
  const [, nodes, seconds] = /(\d+) nodes ([\d.]+) s/.exec(stdout) ?? [];
  return Number(nodes) / Number(seconds);
}

/** Nodes a second in the fastest of three rounds, and the depth reached, which is the same in all. */
function benchSpeed(kind: GameKind, search: SearchModule, by: string, positions: string[]): void {
  let found: Answer[] = [];
  const seconds = bestOf(3, () => {
    found = positions.map((position) =>
      search.search(
        { kind, root: rootOf(kind, position), budget: { nodes: 1e6 }, lines: 1, fresh: true },
        HOST,
      ),
    );
  });
  const nodes = found.reduce((sum, info) => sum + info.nodes, 0);
  report(`${kind} search with ${by}, one core`, perSecond(nodes, seconds));
  report(
    `${kind} depth after 1 M nodes, ${positions.length} quiet middlegames`,
    `median ${median(found.map(({ depth }) => depth))}`,
  );
}

async function benchThreads(kind: GameKind): Promise<void> {
  const position = (await middlegames(kind, 1))[0]!;
  const rate = async (threads: number): Promise<number> => {
    const engine = await startEngine(ENGINE_FILES, { kinds: [kind], threads, tableMegabytes: 64 });
    const info = await engine.search({
      kind,
      root: rootOf(kind, position),
      budget: { milliseconds: 2000 },
      lines: 1,
      fresh: true,
    });
    engine.close();
    return info.nodes / info.milliseconds;
  };
  const ratios: number[] = [];
  for (let round = 0; round < 5; round++) {
    const one = await rate(1);
    ratios.push((await rate(2)) / one);
  }
  report(`${kind} two threads ÷ one, nodes/s`, `median ${median(ratios).toFixed(2)} of 5`);
}

/** Milliseconds from a stop to the answer, in a search that has gone on for some. */
async function stopAfter(engine: Engine, kind: GameKind, milliseconds: number): Promise<number> {
  const stop = new AbortController();
  const search = engine.search(
    { kind, root: rootOf(kind, rulesetOf(kind).startText), budget: {}, lines: 3, fresh: true },
    { signal: stop.signal },
  );
  await setTimeout(milliseconds);
  const asked = performance.now();
  stop.abort();
  await search;
  return performance.now() - asked;
}

async function benchStop(kind: GameKind): Promise<void> {
  const waits: number[] = [];
  const engine = await startEngine(ENGINE_FILES, { kinds: [kind] });
  for (let round = 0; round < 20; round++) waits.push(await stopAfter(engine, kind, 60));
  engine.close();
  const first: number[] = [];
  for (const milliseconds of FIRST_STOPS) {
    const process = await startExternal({ kind, command: [`${root}/bektra`, 'engine', kind] });
    first.push(await stopAfter(process, kind, milliseconds));
    process.close();
  }
  report(
    `${kind} from stop to answer`,
    `median ${median(waits).toFixed(1)} ms, most of 20 ${Math.max(...waits).toFixed(1)} ms; ` +
      `first stop of a process after ${FIRST_STOPS.join(', ')} ms: ${first.map((wait) => wait.toFixed(1)).join(', ')} ms`,
  );
}

async function benchStart(kind: GameKind): Promise<void> {
  const file = `${ENGINE_FILES.modules}/${kind}.wasm`;
  const { size } = await stat(file);
  const bytes = new Uint8Array(await readFile(file));
  const compiled = await WebAssembly.compile(bytes);
  const weights = ['terms', 'network'].reduce(
    (sum, name) =>
      sum +
      WebAssembly.Module.customSections(compiled, name).reduce(
        (all, { byteLength }) => all + byteLength,
        0,
      ),
    0,
  );
  const times: number[] = [];
  for (let round = 0; round < 7; round++) {
    const started = performance.now();
    await loadSearch(ENGINE_FILES, kind);
    times.push(performance.now() - started);
  }
  report(
    `${kind} module`,
    `${((size - weights) / 1000).toFixed(0)} kB and ${(weights / 1000).toFixed(0)} kB of weights, start ${median(times).toFixed(0)} ms`,
  );
}

async function benchTactics(kind: GameKind, search: SearchModule): Promise<void> {
  const suite = await readSuite(kind, 'tactics');
  const solved = suite.filter(({ position, best }) => {
    const info = search.search(
      { kind, root: rootOf(kind, position), budget: { milliseconds: 1000 }, lines: 1, fresh: true },
      HOST,
    );
    return info.lines[0]?.moves[0] === best;
  }).length;
  report(
    `${kind} tactical positions solved in 1 s`,
    `${solved} of ${suite.length} (${((100 * solved) / Math.max(1, suite.length)).toFixed(0)} %)`,
  );
}

const mateSchema = z.object({
  game: z.enum(GAME_KINDS),
  fen: z.string().optional(),
  sfen: z.string().optional(),
  /** In moves of the winner (chess), in plies (shogi). */
  n: z.number(),
});

/** Mates of known length: how many are found exactly, and how long the slowest takes. */
async function benchMates(kind: GameKind, search: SearchModule): Promise<void> {
  const text = await readFile(`${root}/tests/vectors/mates.jsonl`, 'utf8');
  const mates = text
    .split('\n')
    .filter((line) => line !== '')
    .map((line) => mateSchema.parse(JSON.parse(line)))
    .filter(({ game }) => game === kind);
  let exact = 0;
  let slowest = 0;
  for (const { fen, sfen, n } of mates) {
    const info = search.search(
      { kind, root: rootOf(kind, (fen ?? sfen)!), budget: { depth: 14 }, lines: 1, fresh: true },
      HOST,
    );
    const score = info.lines[0]?.score;
    if (score?.kind === 'mate' && score.plies === (kind === 'chess' ? 2 * n - 1 : n)) exact++;
    slowest = Math.max(slowest, info.milliseconds);
  }
  report(
    `${kind} mates of known length found exactly`,
    `${exact} of ${mates.length}, the slowest in ${slowest.toFixed(0)} ms`,
  );
}

const ENDINGS = ['KQ', 'KR', 'KBB', 'KBN', 'KP'] as const;

/** A random legal start of an elementary ending, White to move; the pawn one with the king two ranks before its pawn. */
function endingStart(pieces: (typeof ENDINGS)[number], random: () => number): string {
  const ruleset = rulesetOf('chess');
  for (;;) {
    const board = new Array<string>(64).fill('1');
    const emptySquare = (): number => {
      for (;;) {
        const square = Math.floor(random() * 64);
        if (board[square] === '1') return square;
      }
    };
    if (pieces === 'KP') {
      // squares count from a8; a king two ranks before its pawn, beyond the fourth rank, always wins
      const file = 1 + Math.floor(random() * 6);
      board[5 * 8 + file] = 'P';
      board[3 * 8 + file] = 'K';
      board[8 + Math.floor(random() * 8)] = 'k';
    } else {
      for (const piece of pieces) board[emptySquare()] = piece;
      board[emptySquare()] = 'k';
      const bishops = board.flatMap((piece, square) =>
        piece === 'B' ? [(square + (square >> 3)) % 2] : [],
      );
      if (bishops.length === 2 && bishops[0] === bishops[1]) continue;
    }
    const rows = Array.from({ length: 8 }, (_, row) =>
      board
        .slice(row * 8, row * 8 + 8)
        .join('')
        .replace(/1+/g, (ones) => String(ones.length)),
    );
    const fen = `${rows.join('/')} w - - 0 1`;
    try {
      const position = ruleset.start(fen);
      const moves = ruleset.moves(position);
      // a start in which a piece can be taken at once is no elementary win
      const safe = moves.some((move) => {
        const after = ruleset.play(position, move);
        return ruleset
          .moves(after)
          .every((reply) => ruleset.materialBalance(ruleset.play(after, reply)).length > 0);
      });
      if (safe && !ruleset.inCheck(position)) return fen;
    } catch {
      // the kings stand next to each other: draw again
    }
  }
}

/** Wins elementary endings against its own best defence. */
async function benchEndings(search: SearchModule, starts: number): Promise<void> {
  const ruleset = rulesetOf('chess');
  for (const pieces of ENDINGS) {
    let won = 0;
    let longest = 0;
    for (let seed = 0; seed < starts; seed++) {
      const start = endingStart(pieces, randomSource(seed + 77));
      const positions = [ruleset.start(start)];
      search.clear();
      for (let ply = 0; ply < 100; ply++) {
        const position = positions.at(-1)!;
        const status = ruleset.status(position, positions.slice(0, -1));
        const promoted =
          pieces === 'KP' && ruleset.materialBalance(position).some(({ piece }) => piece === 'Q');
        if (promoted || status.state === 'over') {
          if (promoted || (status.state === 'over' && status.result === '1-0')) {
            won++;
            longest = Math.max(longest, Math.ceil(ply / 2));
          }
          break;
        }
        const info = search.search(
          {
            kind: 'chess',
            root: ruleset.searchRoot(position, positions.slice(0, -1)),
            budget: { milliseconds: 200 },
            lines: 1,
            fresh: false,
          },
          HOST,
        );
        positions.push(ruleset.play(position, ruleset.parseCode(info.lines[0]!.moves[0]!)!));
      }
    }
    report(
      `${pieces} against the king, 200 ms a move`,
      `${won} of ${starts} won, longest ${longest} moves`,
    );
  }
}

/** What docs/engine.md tells of the engine. @param others native programs to compare with, for chess and for shogi */
export async function benchEngine(others: readonly string[]): Promise<void> {
  for (const kind of GAME_KINDS) {
    const search = await loadSearch(ENGINE_FILES, kind);
    await benchPerft(kind, search, others[kind === 'chess' ? 0 : 1]);
    const positions = await middlegames(kind, 20);
    benchSpeed(kind, search, 'the network', positions);
    const plain = await loadSearch(ENGINE_FILES, kind);
    plain.setNetwork(null);
    benchSpeed(kind, plain, 'the terms', positions);
    await benchThreads(kind);
    await benchStop(kind);
    await benchStart(kind);
    await benchTactics(kind, search);
    await benchMates(kind, search);
    if (kind === 'chess') await benchEndings(search, 10);
  }
}
