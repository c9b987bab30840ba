import * as z from 'zod';

/** How long a sweep looks at each position: exactly one limit, and how many lines. */
export const sweepSettingsSchema = z
  .object({
    depth: z.number().int().min(1).max(60).optional(),
    nodes: z.number().int().min(100).max(1_000_000_000).optional(),
    milliseconds: z.number().int().min(10).max(600_000).optional(),
    lines: z.number().int().min(1).max(8),
  })
  .refine(
    ({ depth, nodes, milliseconds }) =>
      [depth, nodes, milliseconds].filter((limit) => limit !== undefined).length === 1,
    { message: 'exactly one of depth, nodes and milliseconds' },
  );

export type SweepSettings = z.infer<typeof sweepSettingsSchema>;

/** What a sweep does unless told otherwise: by nodes, so that a position costs the same in either game. */
export const DEFAULT_SWEEP = { nodes: 400_000, lines: 3 } as const satisfies SweepSettings;

/** The settings as one text, under which evaluations are stored. */
export function settingsText({ depth, nodes, milliseconds, lines }: SweepSettings): string {
  const limit =
    depth !== undefined
      ? `depth ${depth}`
      : nodes !== undefined
        ? `nodes ${nodes}`
        : `milliseconds ${milliseconds}`;
  return `${limit} lines ${lines}`;
}

/** Reads what {@link settingsText} wrote; @throws ZodError */
export function readSettingsText(text: string): SweepSettings {
  const [limit, value, , lines] = text.split(' ');
  return sweepSettingsSchema.parse({ [limit!]: Number(value), lines: Number(lines) });
}
