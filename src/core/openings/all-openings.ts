import { folded } from '../game/folded';
import { CHESS_LINES } from './chess-lines';
import { openingText } from './opening';
import { OPENING_SHAPES } from './shogi-shapes';

const linesOf = (text: string): string[][] =>
  text
    .trim()
    .split('\n')
    .map((line) => line.split('|'));

/** All openings that have names, as they are stored, with what is looked for in them. */
const ALL: readonly { text: string; folded: string }[] = [
  ...linesOf(CHESS_LINES).map(([code, name, japanese]) => ({
    code: code!,
    name: name!,
    japanese: japanese!,
  })),
  ...linesOf(OPENING_SHAPES).map(([name, japanese]) => ({
    code: '',
    name: name!,
    japanese: japanese!,
  })),
].map((opening) => ({ text: openingText(opening), folded: folded(openingText(opening)) }));

/** Openings whose code or name, in either language, holds some words. */
export const openingsWith = (words: string): string[] =>
  ALL.filter((opening) => opening.folded.includes(folded(words))).map(({ text }) => text);
