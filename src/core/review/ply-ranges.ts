/** Plies as ranges in ascending order: `0-3.7.12-40`; empty: none. */
export function plyRanges(plies: readonly number[]): string {
  const ranges: [first: number, last: number][] = [];
  for (const ply of plies) {
    const range = ranges.at(-1);
    if (range && ply === range[1] + 1) range[1] = ply;
    else ranges.push([ply, ply]);
  }
  return ranges
    .map(([first, last]) => (first === last ? String(first) : `${first}-${last}`))
    .join('.');
}

/** Whether a ply is in what {@link plyRanges} wrote. */
export function pliesIn(text: string): (ply: number) => boolean {
  const ranges = text
    .split('.')
    .filter(Boolean)
    .map((range) => range.split('-').map(Number));
  return (ply) => ranges.some(([first, last = first]) => ply >= first! && ply <= last!);
}
