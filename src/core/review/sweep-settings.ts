import * as z from 'zod';

const nodes = z.number().int().min(100).max(1_000_000_000);
const milliseconds = z.number().int().min(10).max(600_000);

const isOne = (...limits: unknown[]): boolean =>
  limits.filter((limit) => limit !== undefined).length === 1;

/** How long one position is looked at: exactly one limit, and how many lines. */
export const searchSettingsSchema = z
  .strictObject({
    depth: z.number().int().min(1).max(60).optional(),
    nodes: nodes.optional(),
    milliseconds: milliseconds.optional(),
    lines: z.number().int().min(1).max(8),
  })
  .refine((limits) => isOne(limits.depth, limits.nodes, limits.milliseconds), {
    message: 'exactly one of depth, nodes and milliseconds',
  });
export type SearchSettings = z.infer<typeof searchSettingsSchema>;

/** What a sweep spends on a position on average; where a verdict is in doubt it spends more, elsewhere less. */
export const effortSchema = z
  .strictObject({ nodes: nodes.optional(), milliseconds: milliseconds.optional() })
  .refine((limits) => isOne(limits.nodes, limits.milliseconds), {
    message: 'exactly one of nodes and milliseconds',
  });
export type Effort = z.infer<typeof effortSchema>;

/** How a sweep looks: with an effort that it distributes, or at every position alike. */
export const sweepSettingsSchema = z.union([
  z.strictObject({ average: effortSchema }),
  searchSettingsSchema,
]);
export type SweepSettings = z.infer<typeof sweepSettingsSchema>;

/** Nodes a position on average. */
export const SWEEP_PRESETS = { quick: 100_000, standard: 1_000_000, deep: 10_000_000 } as const;
export type SweepPreset = keyof typeof SWEEP_PRESETS;

/** What a sweep does unless told otherwise: by nodes, so that a busy machine finds the same. */
export const DEFAULT_SWEEP = {
  average: { nodes: SWEEP_PRESETS.standard },
} as const satisfies SweepSettings;

const limitText = ({ depth, nodes, milliseconds }: Omit<SearchSettings, 'lines'>): string =>
  depth !== undefined
    ? `depth ${depth}`
    : nodes !== undefined
      ? `nodes ${nodes}`
      : `milliseconds ${milliseconds}`;

/** The settings as one text, under which a sweep is stored. */
export const settingsText = (settings: SweepSettings): string =>
  'average' in settings
    ? `average ${limitText(settings.average)}`
    : `${limitText(settings)} lines ${settings.lines}`;

/** Reads what {@link settingsText} wrote; @throws ZodError */
export function readSettingsText(text: string): SweepSettings {
  const words = text.split(' ');
  if (words[0] === 'average')
    return sweepSettingsSchema.parse({ average: { [words[1]!]: Number(words[2]) } });
  return readSearchText(text);
}

/** The same where every position is looked at alike; @throws ZodError */
export function readSearchText(text: string): SearchSettings {
  const [limit, value, , lines] = text.split(' ');
  return searchSettingsSchema.parse({ [limit!]: Number(value), lines: Number(lines) });
}
