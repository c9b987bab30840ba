import * as z from 'zod';
import { SWEEP_PRESETS, type SweepPreset } from '@/core/review/sweep-settings';
import { usageError } from './exit';

const PRESETS = Object.keys(SWEEP_PRESETS) as SweepPreset[];

function number(what: string, least: number, most: number) {
  const error = `${what} from ${least} to ${most}`;
  return z
    .string()
    .regex(/^\d+(\.\d+)?$/, { error })
    .transform(Number)
    .pipe(z.number().min(least, { error }).max(most, { error }));
}

function whole(least: number, most: number) {
  const error = `a whole number from ${least} to ${most}`;
  return number('a whole number', least, most).pipe(z.number().int({ error }));
}

const DIFFERENCES = 'two Elo differences, the smaller first, as in --sprt=-5,10';

const limitsShape = {
  depth: whole(1, 126).optional(),
  nodes: whole(1, 1_000_000_000_000).optional(),
  /** Milliseconds of a search, or seconds of self-play. */
  time: whole(0, 1_000_000_000).optional(),
};

const optionsSchema = z.object({
  preset: z.enum(PRESETS, { error: PRESETS.join(', ') }).optional(),
  ...limitsShape,
  lines: whole(1, 8).optional(),
  games: whole(1, 1_000_000).optional(),
  concurrency: whole(1, 64).optional(),
  /** Engines at a time. */
  jobs: whole(1, 64).optional(),
  /** Of ending tables, kings among them. */
  pieces: whole(3, 4).optional(),
  /** Of the longest mate looked for. */
  plies: whole(1, 99).optional(),
  seed: whole(0, Number.MAX_SAFE_INTEGER).optional(),
  epochs: whole(1, 1000).optional(),
  /** Step of the first epoch of training. */
  rate: number('a number', 0.00001, 1).optional(),
  decay: number('a number', 0, 100).optional(),
  trust: number('a number', 0, 1).optional(),
  sprt: z
    .string()
    .regex(/^-?\d+(\.\d+)?,-?\d+(\.\d+)?$/, { error: DIFFERENCES })
    .transform((text) => text.split(',').map(Number) as [low: number, high: number])
    .refine(([low, high]) => low < high, { error: DIFFERENCES })
    .optional(),
});

export type CheckedOptions = z.infer<typeof optionsSchema>;

/** @throws CommandError naming the option that is wrong, and what it takes */
function checked<T>(schema: z.ZodType<T>, values: object, before: '--' | '@'): T {
  const parsed = schema.safeParse(values);
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  const name = String(issue!.path[0] ?? '');
  throw usageError(
    issue!.code === 'unrecognized_keys'
      ? `Unknown: ${issue!.keys.join(', ')}.`
      : `${before}${name}: ${issue!.message}.`,
  );
}

/** Options by what they stand for. @throws CommandError naming the one that is wrong */
export const checkOptions = (values: object): CheckedOptions =>
  checked(optionsSchema, values, '--');

/** The limit of one player of a match, `nodes=4000`. @throws CommandError as for options */
export const readLimits = (text: string): Pick<CheckedOptions, 'depth' | 'nodes' | 'time'> =>
  checked(
    z.strictObject(limitsShape),
    Object.fromEntries(text.split(',').map((pair) => pair.split('=') as [string, string])),
    '@',
  );
