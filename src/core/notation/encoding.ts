import iconv from 'iconv-lite';
import type { GameKind } from '../game/ruleset';

/** What text that is not UTF-8 is taken for. */
const FALLBACK: Record<GameKind, string> = { chess: 'windows-1252', shogi: 'shift_jis' };

/** Decodes UTF-8 (a byte order mark is dropped), else the legacy encoding usual for the game. */
export function decodeText(bytes: Uint8Array, kind: GameKind): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    const decoder = new TextDecoder(FALLBACK[kind]);
    // all at once, Node takes Windows-1252 for Latin-1
    return decoder.decode(bytes, { stream: true }) + decoder.decode();
  }
}

export const legacyEncoding = (kind: GameKind): string => FALLBACK[kind];

/** Encodes as Shift_JIS in the form that other programs read; letters that it lacks become `?`. */
export const encodeShiftJis = (text: string): Uint8Array =>
  iconv.encode(text.replace(/\u2212/g, '\uff0d'), 'cp932');

/** A file that holds control characters no text has: NUL anywhere, others at its beginning. */
export const isBinary = (bytes: Uint8Array): boolean =>
  bytes.includes(0) || bytes.subarray(0, 4096).some((byte) => byte < 9 || (byte > 13 && byte < 27));
