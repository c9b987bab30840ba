import { folded } from './folded';

/** A player's name as it is told from others: case, accents, widths of letters and spaces make no difference. */
export const nameKey = (name: string): string => folded(name).trim().replace(/\s+/g, ' ');

/** Equal for names that may be the same person's: the order of their words and what stands between them make no difference either. */
export const looseNameKey = (name: string): string =>
  nameKey(name)
    .split(/[\s,.・·]+/u)
    .filter(Boolean)
    .sort()
    .join(' ');
