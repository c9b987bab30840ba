import type { Place } from '../game/problem';

/** Line and column (1-based, in characters) of an offset; `\n`, `\r\n` and `\r` end a line. */
export function placeOf(text: string, offset: number, firstLine = 1): Place {
  let line = firstLine;
  let start = 0;
  for (let i = 0; i < offset && i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code === 10 || (code === 13 && text.charCodeAt(i + 1) !== 10)) {
      line++;
      start = i + 1;
    }
  }
  return { line, column: offset - start + 1 };
}
