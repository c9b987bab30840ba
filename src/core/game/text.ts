/** Whether a text can be stored and sent: it has no NUL and no half of a surrogate pair. */
export const isPlainText = (text: string): boolean => !text.includes('\0') && text.isWellFormed();

const isSpace = (code: number): boolean => code === 32 || code === 9;
const isBlank = (code: number): boolean => isSpace(code) || code === 10 || code === 13;

function trimmed(text: string, goes: (code: number) => boolean): string {
  let from = 0;
  let to = text.length;
  while (from < to && goes(text.charCodeAt(from))) from++;
  while (to > from && goes(text.charCodeAt(to - 1))) to--;
  return text.slice(from, to);
}

/** The text without spaces, tabs and line breaks at its ends; other white space, such as an indent `　`, stays. */
export const trimBlank = (text: string): string => trimmed(text, isBlank);

/** The text without spaces and tabs at its ends. */
export const trimSpaces = (text: string): string => trimmed(text, isSpace);
