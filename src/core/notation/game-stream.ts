import type { Reading } from './reading';

/** Reads the games of a text that comes in pieces, as they become complete. */
export interface GameStream {
  push(text: string): Iterable<Reading>;
  /** The last ones. */
  end(): Iterable<Reading>;
}
