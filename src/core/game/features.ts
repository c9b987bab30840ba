/** Something that can be counted on a board, for each side: the first side's value first. */
export interface Feature {
  /** Its name in the message catalogue. */
  name: string;
  values: readonly [string | number, string | number];
}

/** A feature in several positions, side by side. */
export interface FeatureRow {
  name: string;
  values: readonly Feature['values'][];
}

/** The features in which some position differs from the first; those of each position come in the same order. */
export function featureTable(positions: readonly (readonly Feature[])[]): FeatureRow[] {
  const [first = []] = positions;
  return first.flatMap(({ name, values: [one, other] }, index) => {
    const values = positions.map((features) => features[index]!.values);
    return values.some(([a, b]) => a !== one || b !== other) ? [{ name, values }] : [];
  });
}
