import type { Ruleset } from '../game/ruleset';

/** Up to `most` legal moves that look like what was written: those to the same square first. */
export function nearbyMoves<P>(
  ruleset: Ruleset<P>,
  position: P,
  written: string,
  most = 6,
): string[] {
  const target = /([1-9][a-i]|[a-h][1-8])(?!.*([1-9][a-i]|[a-h][1-8]))/.exec(written)?.[0];
  const likeness = (text: string): number =>
    (target !== undefined && text.includes(target) ? 2 : 0) + (text[0] === written[0] ? 1 : 0);
  return ruleset
    .moves(position)
    .map((move) => ruleset.text(position, move))
    .map((text) => ({ text, likeness: likeness(text) }))
    .filter((candidate) => candidate.likeness > 0)
    .sort((a, b) => b.likeness - a.likeness)
    .slice(0, most)
    .map(({ text }) => text);
}
