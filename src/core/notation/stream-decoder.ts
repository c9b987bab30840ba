import type { GameKind } from '../game/ruleset';
import { legacyEncoding } from './encoding';

/**
 * Decodes text that comes in pieces: UTF-8 (a byte order mark is dropped), and from the first piece on that is none, the legacy
 * encoding usual for the game. Until then there was nothing in it that the two write differently, or it was UTF-8.
 */
export class StreamDecoder {
  private utf8: TextDecoder | null = new TextDecoder('utf-8', { fatal: true });
  private readonly legacy: TextDecoder;
  /** Bytes at the end of the last piece that may be the beginning of a character. */
  private open: Uint8Array = new Uint8Array();

  constructor(kind: GameKind) {
    this.legacy = new TextDecoder(legacyEncoding(kind));
  }

  push(piece: Uint8Array): string {
    if (!this.utf8) return this.legacy.decode(piece, { stream: true });
    const bytes = this.open.length > 0 ? Buffer.concat([this.open, piece]) : piece;
    const whole = bytes.length - openBytes(bytes);
    try {
      // complete characters alone, so that nothing is held back inside it
      const text = this.utf8.decode(bytes.subarray(0, whole), { stream: true });
      this.open = bytes.slice(whole);
      return text;
    } catch {
      this.utf8 = null;
      return this.legacy.decode(bytes, { stream: true });
    }
  }

  /** What is left at the end of the text. */
  end(): string {
    return this.legacy.decode(this.utf8 ? this.open : undefined);
  }
}

/** How many bytes at the end begin a character of UTF-8 that goes on behind them. */
function openBytes(bytes: Uint8Array): number {
  for (let back = 1; back <= Math.min(3, bytes.length); back++) {
    const byte = bytes[bytes.length - back]!;
    if (byte < 0x80) return 0;
    // a leading byte tells how long its character is
    if (byte >= 0xc0) return (byte >= 0xf0 ? 4 : byte >= 0xe0 ? 3 : 2) > back ? back : 0;
  }
  return 0;
}
