import * as z from 'zod';

/** Characters that are taken to begin with, spaces among them. */
const MOST_SENT = 200;

/** A few words as a person writes them: without spaces around them, with one between them, of at most so many characters. */
export const words = (most: number) =>
  z
    .string()
    .max(MOST_SENT)
    .transform((text) => text.trim().replaceAll(/\s+/gu, ' '))
    .pipe(z.string().min(1).max(most));
