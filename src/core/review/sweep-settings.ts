import * as z from 'zod';
import { LIMITS } from '../game/problem';
import type { Side } from '../game/ruleset';

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

const ply = z.number().int().min(1).max(LIMITS.plies);

/**
 * Which moves of a game are gone over: one side's, and from one move to another, by ply from 1; those that were played, those of the
 * variations that leave the game in that stretch, or both. All that were played, where nothing is said. Moves known to a base, by its number, are
 * passed over: whoever begins a sweep finds out where its game left the base, and says so by `from`.
 */
export const scopeSchema = z
  .strictObject({
    side: z.literal([0, 1]).optional(),
    from: ply.optional(),
    to: ply.optional(),
    over: z.enum(['variations', 'both']).optional(),
    known: z.number().int().positive().optional(),
  })
  .refine(({ from, to }) => from === undefined || to === undefined || from <= to, {
    message: 'from is behind to',
  });
export type Scope = z.infer<typeof scopeSchema>;

export const goesOverVariations = (settings: SweepSettings): boolean =>
  'average' in settings && settings.moves?.over !== undefined;

/** The same for the moves that were played alone; null where those are not gone over. */
export function playedAlone(settings: SweepSettings): SweepSettings | null {
  if (!('average' in settings) || !settings.moves) return settings;
  const { over, ...moves } = settings.moves;
  return over === 'variations' ? null : { ...settings, moves };
}

/** @param ply of the move, 1 for the first */
export const isInScope = (
  { side, from = 1, to = Infinity }: Scope,
  by: Side,
  ply: number,
): boolean => (side === undefined || side === by) && from <= ply && ply <= to;

/** How a sweep looks: with an effort that it distributes, over all moves or some; or at every position alike. */
export const sweepSettingsSchema = z.union([
  z.strictObject({ average: effortSchema, moves: scopeSchema.optional() }),
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
    ? [
        'average',
        limitText(settings.average),
        ...Object.entries(settings.moves ?? {}).map((one) => one.join(' ')),
      ].join(' ')
    : `${limitText(settings)} lines ${settings.lines}`;

/** Reads what {@link settingsText} wrote; @throws ZodError */
export function readSettingsText(text: string): SweepSettings {
  const [first, limit, value, ...words] = text.split(' ');
  if (first === 'average') {
    const scope = Object.fromEntries(
      words.flatMap((name, index) => {
        const said = words[index + 1];
        return index % 2 === 0 ? [[name, name === 'over' ? said : Number(said)]] : [];
      }),
    );
    return sweepSettingsSchema.parse({
      average: { [limit!]: Number(value) },
      ...(words.length > 0 ? { moves: scope } : {}),
    });
  }
  return readSearchText(text);
}

/** The same where every position is looked at alike; @throws ZodError */
export function readSearchText(text: string): SearchSettings {
  const [limit, value, , lines] = text.split(' ');
  return searchSettingsSchema.parse({ [limit!]: Number(value), lines: Number(lines) });
}

/** Settings for some moves of a game alone, where they can be; what is undefined says nothing. @param text settings as text */
export function scopedSettings(text: string, scope: Scope): SweepSettings {
  const settings = readSettingsText(text);
  const said = Object.entries(scope).filter(([, value]) => value !== undefined);
  return 'average' in settings && said.length > 0
    ? { ...settings, moves: Object.fromEntries(said) }
    : settings;
}
