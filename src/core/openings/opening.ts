/** How a game was opened, by the names that are in use. */
export interface Opening {
  /** A letter and two digits; empty where the game has no such codes. */
  code: string;
  name: string;
  japanese: string;
}

/** An opening as it is stored, ordered by and searched in: its parts with `|` between them. */
export const openingText = ({ code, name, japanese }: Opening): string =>
  `${code}|${name}|${japanese}`;

/** The same read back. */
export function readOpening(text: string): Opening {
  const [code = '', name = '', japanese = ''] = text.split('|');
  return { code, name, japanese };
}

/** The opening that one is a part of, without its variation; without the code, which its parts don't share. */
export function familyOf({ name, japanese }: Opening): Opening {
  return { code: '', name: name.split(',')[0]!, japanese: japanese.split('、')[0]! };
}
