import { LIMITS } from './problem';
import type { EndReason, Result } from './result';
import type { GameTree } from './tree';

/** A tag by its PGN name where PGN has one, else by the name that its file gave it. */
export interface Tag {
  readonly name: string;
  readonly value: string;
}

/** A whole game as read from or written to a file. */
export interface GameRecord {
  readonly tree: GameTree;
  readonly tags: readonly Tag[];
  readonly result: Result;
  readonly end: EndReason | null;
}

/** Versions of a stored game are counted from here. */
export const FIRST_VERSION = 1;

/** The value of a tag, or undefined; PGN's `?` and `-` are values. */
export const tagOf = (tags: readonly Tag[], name: string): string | undefined =>
  tags.find((tag) => tag.name === name)?.value;

/** The limit that a tag breaks, or null. */
export function tagLimit({ name, value }: Tag): 'tagName' | 'tagLength' | null {
  if (name.length > LIMITS.tagName) return 'tagName';
  return value.length > LIMITS.tagLength ? 'tagLength' : null;
}

/** The tags with one set anew in its place, appended, or with `null` removed. */
export function withTag(tags: readonly Tag[], name: string, value: string | null): Tag[] {
  if (value === null) return tags.filter((tag) => tag.name !== name);
  if (tagOf(tags, name) === undefined) return [...tags, { name, value }];
  return tags.map((tag) => (tag.name === name ? { name, value } : tag));
}
