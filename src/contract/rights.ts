/** What one may do with a game, each with all before it: look, write words and further variations, change it, all else. */
export const RIGHTS = ['read', 'comment', 'edit', 'own'] as const;
export type Right = (typeof RIGHTS)[number];

/** Those that can be given to somebody. */
export const GRANTED = ['read', 'comment', 'edit'] as const satisfies readonly Right[];
export type Granted = (typeof GRANTED)[number];

/** Whether who has a right may do what needs another; without any, nothing. */
export const allows = (right: Right | null, needed: Right): boolean =>
  right !== null && RIGHTS.indexOf(right) >= RIGHTS.indexOf(needed);

/** What a request needs: nothing, an account, or a right on the game that it is about. */
export type Need = 'nothing' | 'account' | Right;
