/** The usual handicaps: name in KIF, and the start as SFEN. The upper side gives the odds and moves first. */
const LOWER = 'ppppppppp/9/9/9/PPPPPPPPP/1B5R1/LNSGKGSNL';
const odds = (upper: string): string => `${upper}/${LOWER} w - 1`;

export const SHOGI_START = `lnsgkgsnl/1r5b1/${LOWER} b - 1`;

export const HANDICAPS = [
  { name: 'even', kif: '平手', start: SHOGI_START },
  { name: 'lance', kif: '香落ち', start: odds('lnsgkgsn1/1r5b1') },
  { name: 'right lance', kif: '右香落ち', start: odds('1nsgkgsnl/1r5b1') },
  { name: 'bishop', kif: '角落ち', start: odds('lnsgkgsnl/1r7') },
  { name: 'rook', kif: '飛車落ち', start: odds('lnsgkgsnl/7b1') },
  { name: 'rook and lance', kif: '飛香落ち', start: odds('lnsgkgsn1/7b1') },
  { name: 'two pieces', kif: '二枚落ち', start: odds('lnsgkgsnl/9') },
  { name: 'three pieces', kif: '三枚落ち', start: odds('lnsgkgsn1/9') },
  { name: 'four pieces', kif: '四枚落ち', start: odds('1nsgkgsn1/9') },
  { name: 'five pieces', kif: '五枚落ち', start: odds('2sgkgsn1/9') },
  { name: 'left five pieces', kif: '左五枚落ち', start: odds('1nsgkgs2/9') },
  { name: 'six pieces', kif: '六枚落ち', start: odds('2sgkgs2/9') },
  { name: 'eight pieces', kif: '八枚落ち', start: odds('3gkg3/9') },
  { name: 'ten pieces', kif: '十枚落ち', start: odds('4k4/9') },
] as const;

/** The handicap that starts from the SFEN, whatever its move number, or null. */
export function handicapOf(start: string): (typeof HANDICAPS)[number] | null {
  const bare = start.replace(/ \d+$/, '');
  return HANDICAPS.find((handicap) => handicap.start.replace(/ \d+$/, '') === bare) ?? null;
}
