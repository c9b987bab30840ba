import { FLIPPED } from './slice';

/**
 * Whose result is meant: exactly, or what white (0) or black (1) gets at least, where what is not known is taken to be lost for them.
 */
export type Aim = 'exact' | 0 | 1;

/** The same side after a move that turns the sides round, or not. */
export const turnedAim = (aim: 0 | 1, mixed: number): 0 | 1 =>
  (aim ^ (mixed & FLIPPED ? 1 : 0)) as 0 | 1;

/** The name of a slice's values of an aim. @param mixed by a move that led to the slice, from where the aim was said */
export const valuesName = (key: string, aim: Aim, mixed = 0): string =>
  aim === 'exact' ? key : `${key} ${turnedAim(aim, mixed)}`;
