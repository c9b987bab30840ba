import { spawn } from 'node:child_process';
import { createWriteStream } from 'node:fs';
import { readFile, rm } from 'node:fs/promises';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chess } from '@/core/chess/ruleset';
import { streamGames } from '@/core/notation/formats';
import { randomSource } from '@/engine/draw';
import { bestOf, report } from './figures';

const PLIES = 80;
const GAMES = 3000;
const LARGE_BYTES = 50 * 1024 * 1024;

/** Random games of 80 plies without comments. */
function makeGames(count: number): string[] {
  const random = randomSource(5);
  return Array.from({ length: count }, (_, game) => {
    let position = chess.start();
    let text = `[Event "Bench"]\n[White "A ${game}"]\n[Black "B"]\n[Result "*"]\n\n`;
    for (let ply = 0; ply < PLIES; ply++) {
      const moves = chess.moves(position);
      if (moves.length === 0) break;
      const move = moves[Math.floor(random() * moves.length)]!;
      if (ply % 2 === 0) text += `${ply / 2 + 1}. `;
      text += `${chess.text(position, move)}${ply % 12 === 11 ? '\n' : ' '}`;
      position = chess.play(position, move);
    }
    return `${text}*\n\n`;
  });
}

function readAll(text: string): number {
  const stream = streamGames('pgn');
  let games = 0;
  for (let at = 0; at < text.length; at += 65_536)
    games += [...stream.push(text.slice(at, at + 65_536))].length;
  return games + [...stream.end()].length;
}

/** Games a second on one core, and the memory in which a 50 MB file is converted. */
export async function benchPgn(): Promise<void> {
  const games = makeGames(GAMES);
  const text = games.join('');
  const seconds = bestOf(5, () => void readAll(text));
  report(`PGN to tree, ${PLIES} plies without comments`, `${Math.round(GAMES / seconds)} games/s`);

  const file = join(tmpdir(), `bektra-bench-${process.pid}.pgn`);
  const stream = createWriteStream(file);
  for (let size = 0; size < LARGE_BYTES; size += text.length)
    if (!stream.write(text)) await once(stream, 'drain');
  stream.end();
  await once(stream, 'finish');
  const started = performance.now();
  const child = spawn(process.execPath, [process.argv[1]!, 'convert', file, '-', '--to', 'json'], {
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  let peak = 0;
  const watch = setInterval(() => {
    readFile(`/proc/${child.pid}/status`, 'utf8')
      .then((status) => {
        peak = Math.max(peak, Number(/VmHWM:\s+(\d+)/.exec(status)?.[1] ?? 0));
      })
      .catch(() => {});
  }, 100);
  await once(child, 'exit');
  clearInterval(watch);
  await rm(file, { force: true });
  report(
    '50 MB of PGN converted to JSON',
    `${((performance.now() - started) / 1000).toFixed(1)} s`,
  );
  report('  most memory (resident)', `${Math.round(peak / 1024)} MB`);
}
