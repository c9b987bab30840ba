/** The symbols that the menu offers, with the key that sets each where it has one. */
export const SYMBOLS: readonly { nag: number; key: string | null }[] = [
  { nag: 3, key: '!!' },
  { nag: 1, key: '!' },
  { nag: 5, key: '!?' },
  { nag: 6, key: '?!' },
  { nag: 2, key: '?' },
  { nag: 4, key: '??' },
  { nag: 7, key: 'o' },
  { nag: 10, key: '=' },
  { nag: 13, key: null },
  { nag: 14, key: null },
  { nag: 15, key: null },
  { nag: 16, key: null },
  { nag: 17, key: null },
  { nag: 18, key: null },
  { nag: 19, key: null },
  { nag: 22, key: null },
  { nag: 32, key: null },
  { nag: 36, key: null },
  { nag: 40, key: null },
  { nag: 132, key: null },
  { nag: 140, key: null },
  { nag: 146, key: null },
];

/** How long a second sign may take to follow the first. */
export const SIGN_PAUSE_MS = 700;

const NAG_OF_KEYS = new Map(
  SYMBOLS.flatMap(({ nag, key }) => (key === null ? [] : [[key, nag] as const])),
);

/** The symbol that a key means after another one: `?` after `!` is `!?`. */
export function nagOfKeys(earlier: string, key: string): number | null {
  return NAG_OF_KEYS.get(earlier + key) ?? NAG_OF_KEYS.get(key) ?? null;
}
