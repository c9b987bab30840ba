import { matePliesToMoves, type Score } from '@/core/game/score';
import type { Ruleset, Side } from '@/core/game/ruleset';

/** Milliseconds as `0:14`, `1:02:03`; tenths below ten seconds where there are any. */
export function clockText(milliseconds: number): string {
  const seconds = Math.floor(milliseconds / 1000);
  const tenths = Math.floor((milliseconds % 1000) / 100);
  const two = (value: number): string => String(value).padStart(2, '0');
  const hours = Math.floor(seconds / 3600);
  const minutes = Math.floor(seconds / 60) % 60;
  const rest = two(seconds % 60);
  const fraction = seconds < 10 && tenths > 0 ? `.${tenths}` : '';
  return hours > 0 ? `${hours}:${two(minutes)}:${rest}` : `${minutes}:${rest}${fraction}`;
}

/** `+0.6`, `−1.9`, `#3` (moves in chess, plies in shogi) from the view of a side. */
export function scoreText(
  score: Score,
  side: Side,
  { numbering }: Pick<Ruleset, 'numbering'>,
): string {
  const sign = (good: boolean): string => (good ? '+' : '−');
  if (score.kind === 'mate') {
    const count = numbering === 'move' ? matePliesToMoves(score.plies) : score.plies;
    return `${sign(score.winner === side)}#${count}`;
  }
  const value = side === 0 ? score.cp : -score.cp;
  const text = (Math.abs(value) / 100).toFixed(Math.abs(value) < 1000 ? 2 : 1);
  return Number(text) === 0 ? '0.00' : sign(value > 0) + text;
}
