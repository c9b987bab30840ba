/** The place of what is not known. */
const UNKNOWN = -1;

/** A column of numbers that grows; NaN where nothing is known. */
export class NumberColumn {
  values = new Float64Array(64);

  private placed: Float64Array | null = null;

  set(place: number, value: number | null): void {
    this.values = grown(this.values, place, (size) => new Float64Array(size));
    this.values[place] = value ?? NaN;
    this.placed = null;
  }

  /** For each place where its number stands among all different ones, the least first; -1 where it is not known. */
  places(): Float64Array {
    if (this.placed) return this.placed;
    const { values } = this;
    const sorted = values.filter((value) => !Number.isNaN(value)).sort();
    let different = 0;
    for (const value of sorted)
      if (different === 0 || sorted[different - 1] !== value) sorted[different++] = value;
    const placed = new Float64Array(values.length);
    for (let at = 0; at < values.length; at++) {
      const value = values[at]!;
      placed[at] = Number.isNaN(value) ? UNKNOWN : placeIn(sorted, different, value);
    }
    return (this.placed = placed);
  }
}

/** A column of words that grows: each different text is kept once. */
export class TextColumn {
  private codes = new Int32Array(64);
  private readonly known = new Map<string, number>();
  private readonly words: string[] = [];
  private ranked: Float64Array | null = null;

  set(place: number, value: string | null): void {
    this.codes = grown(this.codes, place, (size) => new Int32Array(size));
    this.codes[place] = value === null ? UNKNOWN : this.codeOf(value);
    this.ranked = null;
  }

  private codeOf(value: string): number {
    const known = this.known.get(value);
    if (known !== undefined) return known;
    this.known.set(value, this.words.length);
    return this.words.push(value) - 1;
  }

  /** How many of some places have each text. */
  countOf(places: Int32Array): Map<string | null, number> {
    // the last is of those where it is not known
    const counts = new Uint32Array(this.words.length + 1);
    for (const place of places) {
      const code = this.codes[place]!;
      counts[code === UNKNOWN ? this.words.length : code]!++;
    }
    const found = new Map<string | null, number>();
    counts.forEach((count, code) => count > 0 && found.set(this.words[code] ?? null, count));
    return found;
  }

  at(place: number): string | null {
    return this.words[this.codes[place]!] ?? null;
  }

  /** Whether the text at a place fits; one that is not known does not. Each different text is looked at once. */
  test(fits: (value: string) => boolean): (place: number) => boolean {
    const outcome = this.words.map(fits);
    const { codes } = this;
    return (place) => outcome[codes[place]!] ?? false;
  }

  /** For each place where its text stands among all in the order of their characters; -1 where it is not known. */
  ranks(): Float64Array {
    if (this.ranked) return this.ranked;
    const { words } = this;
    const order = words.map((_, code) => code).sort((a, b) => (words[a]! < words[b]! ? -1 : 1));
    const rank = new Float64Array(words.length);
    order.forEach((code, place) => (rank[code] = place));
    const { codes } = this;
    const ranked = new Float64Array(codes.length);
    for (let at = 0; at < codes.length; at++) ranked[at] = rank[codes[at]!] ?? UNKNOWN;
    return (this.ranked = ranked);
  }
}

/** Where a number stands among the first so many of sorted ones, which hold it. */
function placeIn(sorted: Float64Array, count: number, value: number): number {
  let [low, high] = [0, count - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle]! < value) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** The same values with room for a place. */
function grown<T extends Float64Array | Int32Array>(
  values: T,
  place: number,
  make: (size: number) => T,
): T {
  if (place < values.length) return values;
  const larger = make(Math.max(2 * values.length, place + 1));
  larger.set(values as never);
  return larger;
}
