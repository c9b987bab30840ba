import { chess } from './chess/ruleset';
import type { GameKind, Ruleset } from './game/ruleset';
import { shogi } from './shogi/ruleset';

const RULESETS: Record<GameKind, Ruleset> = {
  chess: chess as unknown as Ruleset,
  shogi: shogi as unknown as Ruleset,
};

/** The rules of a game, for code that is written once for both. */
export const rulesetOf = (kind: GameKind): Ruleset => RULESETS[kind];

/** Tells FEN from SFEN: nine rows or three fields with a side `b`/`w` and no castling field mean shogi. */
export function kindOfPosition(text: string): GameKind {
  const trimmed = text.trim();
  if (trimmed === 'startpos' || /^sfen\s/.test(trimmed)) return 'shogi';
  return trimmed.split(/\s+/)[0]!.split('/').length === 9 ? 'shogi' : 'chess';
}
