import { dropOf, fromOf, toOf, type Move } from './move';
import type { Ruleset } from './ruleset';

/** How far two squares are apart, by their names: the square of the distance. */
const apart = (a: string, b: string): number =>
  (a.charCodeAt(0) - b.charCodeAt(0)) ** 2 + (a.charCodeAt(1) - b.charCodeAt(1)) ** 2;

/** Up to `most` legal moves that look like what was written: those to the same square first, then of the same piece, nearest first. */
export function nearbyMoves<P>(
  ruleset: Ruleset<P>,
  position: P,
  written: string,
  most = 6,
): string[] {
  const [target] = ruleset.squareNames
    .filter((name) => written.includes(name))
    .sort((a, b) => written.lastIndexOf(b) - written.lastIndexOf(a));
  const code = ruleset.parseCode(written);
  const pieceOf = (text: string): string => (/^[a-h]/.test(text) ? 'pawn' : text.charAt(0));
  const isSamePiece = (move: Move, text: string): boolean =>
    code !== null && !dropOf(code)
      ? !dropOf(move) && fromOf(move) === fromOf(code)
      : pieceOf(text) === pieceOf(written);
  return ruleset
    .moves(position)
    .map((move) => {
      const text = ruleset.text(position, move);
      const distance = target ? apart(ruleset.squareNames[toOf(move)]!, target) : 0;
      return { text, distance, isSamePiece: isSamePiece(move, text) };
    })
    .filter(({ distance, isSamePiece }) => isSamePiece || (target !== undefined && distance === 0))
    .sort((a, b) => a.distance - b.distance || Number(b.isSamePiece) - Number(a.isSamePiece))
    .slice(0, most)
    .map(({ text }) => text);
}

/** The same as a message names them. */
export const nearbyText = <P>(ruleset: Ruleset<P>, position: P, written: string): string =>
  nearbyMoves(ruleset, position, written).join(', ') || '–';
