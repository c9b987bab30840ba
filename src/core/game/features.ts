/** Something that can be counted on a board, for each side: the first side's value first. */
export interface Feature {
  /** Its name in the message catalogue. */
  name: string;
  values: readonly [string | number, string | number];
}

/** Features in which two positions differ, side by side. */
export interface FeatureDifference {
  name: string;
  before: Feature['values'];
  after: Feature['values'];
}

const same = (a: Feature['values'], b: Feature['values']): boolean =>
  a[0] === b[0] && a[1] === b[1];

/** What has changed from one position to another; features come in the same order. */
export const featureDifferences = (
  before: readonly Feature[],
  after: readonly Feature[],
): FeatureDifference[] =>
  after.flatMap(({ name, values }, index) =>
    same(before[index]!.values, values)
      ? []
      : [{ name, before: before[index]!.values, after: values }],
  );
