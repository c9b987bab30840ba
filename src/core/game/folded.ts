/** Letters that Unicode does not take apart, as people type them who lack them. */
const PLAIN: Readonly<Record<string, string>> = {
  ł: 'l',
  ø: 'o',
  đ: 'd',
  ð: 'd',
  þ: 'th',
  ß: 'ss',
  æ: 'ae',
  œ: 'oe',
  ı: 'i',
};

/**
 * A text as searches compare it: case, accents, widths of letters and the two kinds of kana make no difference; the sound marks of
 * kana do.
 */
export const folded = (text: string): string =>
  ASCII.test(text) ? text.toLowerCase() : foldedLetters(text);

/** Most texts hold nothing but this. */
const ASCII = /^[\x00-\x7f]*$/;

const foldedLetters = (text: string): string =>
  text
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[łøđðþßæœı]/g, (letter) => PLAIN[letter]!)
    .replace(/[\u30a1-\u30f6]/g, (kana) => String.fromCharCode(kana.charCodeAt(0) - 0x60))
    .normalize('NFD')
    .replace(/(?![\u3099\u309a])\p{M}/gu, '')
    .normalize('NFC');
