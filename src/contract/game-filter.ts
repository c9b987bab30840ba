import * as z from 'zod';
import { END_REASONS } from '@/core/game/result';
import { GAME_KINDS } from '@/core/game/ruleset';
import { TIME_CLASSES } from '@/core/game/time-class';
import { TRENDS } from '@/core/review/summary';
import { words } from './words';

const YES_NO = ['yes', 'no'] as const;

/** What games are told apart by that has a few values; `unknown` where a game does not tell. */
export const CHOICES = {
  /** For the owner. */
  outcome: ['won', 'drawn', 'lost', 'unknown'],
  /** The owner's. */
  side: ['first', 'second', 'unknown'],
  timeClass: [...TIME_CLASSES, 'unknown'],
  rated: [...YES_NO, 'unknown'],
  end: [...END_REASONS, 'unknown'],
  trend: [...TRENDS, 'unknown'],
  swept: YES_NO,
  annotated: YES_NO,
  opened: YES_NO,
} as const satisfies Record<string, readonly string[]>;
export type Choice = keyof typeof CHOICES;

/** What they are told apart by that is a number. What is one side's is the owner's (or of whom they look at, `viewpoint`), what is another's the opponent's; games of others have none. */
export const RANGES = [
  /** Of the day at which it began, 0–23. */
  'hour',
  'moves',
  'rating',
  'otherRating',
  'accuracy',
  'otherAccuracy',
  /** Chance points that a move lost on average, and the worst one; of a game of others, of whoever lost most. */
  'meanLoss',
  'worst',
  'inaccuracies',
  'mistakes',
  'blunders',
  'turningPoints',
  'letOffs',
  /** The best chance that the owner had. */
  'peak',
  /** Mean depth of the sweep. */
  'depth',
] as const;
export type Range = (typeof RANGES)[number];

const NUMBER = /^-?\d{1,5}(?:\.\d{1,2})?$/;
const DATE = /^\d{4}(?:-\d\d){0,2}$/;

/** What lies between two ends, either of which may be open, as `from..to`. */
export interface Span {
  from: string | null;
  to: string | null;
}

export function readSpan(text: string): Span {
  const [from = '', to = ''] = text.split('..');
  return { from: from === '' ? null : from, to: to === '' ? null : to };
}

/** The same as text; undefined where both ends are open. */
export const spanText = ({ from, to }: Span): string | undefined =>
  from === null && to === null ? undefined : `${from ?? ''}..${to ?? ''}`;

/** What lies between two whole numbers of up to four digits, either of which may be open. */
export const numberSpan = z.string().regex(/^(?:\d{1,4}\.\.\d{0,4}|\.\.\d{1,4})$/);

/** Both its ends. */
export function readNumbers(text: string): readonly [number, number] {
  const { from, to } = readSpan(text);
  return [Number(from ?? 0), Number(to ?? 9999)];
}

const span = (end: RegExp) =>
  z.string().refine((text) => {
    const ends = text.split('..');
    return ends.length === 2 && ends.every((one) => one === '' || end.test(one));
  });

const someOf = (values: readonly string[]) =>
  z.string().refine((text) => text.split(',').every((value) => values.includes(value)));

const each = <Name extends string>(
  names: readonly Name[],
  schema: (name: Name) => z.ZodType<string>,
) =>
  Object.fromEntries(names.map((name) => [name, schema(name).optional()])) as Record<
    Name,
    z.ZodOptional<z.ZodType<string>>
  >;

export const CHOICE_NAMES = Object.keys(CHOICES) as Choice[];

const facts = {
  ...each(CHOICE_NAMES, (name) => someOf(CHOICES[name])),
  ...each(RANGES, () => span(NUMBER)),
};

/** A word or more by which the owner finds games again. */
export const label = words(40);

const row = z.number().int().positive().max(Number.MAX_SAFE_INTEGER);

/** Which of an owner's games are meant; what is left out does not matter. */
export const gameFilterSchema = z.object({
  kind: z.enum(GAME_KINDS).optional(),
  /** Words that are in players' names, the event, the date, or what was written in the game. */
  text: z.string().max(100).optional(),
  /** In which a player plays, and against whom. */
  player: row.optional(),
  against: row.optional(),
  /** The side on which `player` plays. */
  playing: z.enum(['first', 'second']).optional(),
  /** What is one side's is that of `player`, rather than the owner's. */
  viewpoint: z.literal('player').optional(),
  collection: row.optional(),
  label: label.optional(),
  /** Words of the opening's code or name, in either language. */
  opening: words(60).optional(),
  /** From one year, month or day to another. */
  date: span(DATE).optional(),
  /** Those that have been deleted, at any time or at one, and can be brought back; else those that have not. */
  deleted: z.union([z.literal('yes'), z.iso.datetime()]).optional(),
  ...facts,
});
export type GameFilter = z.infer<typeof gameFilterSchema>;

/** Games that may be chosen one by one. */
export const MOST_CHOSEN = 1000;

/** Games one by one, or all that a filter holds. */
export const gameChoiceSchema = gameFilterSchema.extend({
  ids: z.array(row).min(1).max(MOST_CHOSEN).optional(),
});

/** Games one by one as an address has them, with commas between; undefined where none or too many are named. */
export function readIds(text: unknown): number[] | undefined {
  if (typeof text !== 'string') return undefined;
  const parsed = gameChoiceSchema.shape.ids.safeParse(text.split(',').map(Number));
  return parsed.success ? parsed.data : undefined;
}

const IDS = new Set(['player', 'against', 'collection']);

/** A filter as an address has it; what is not understood is left out. */
export function readFilter(query: Readonly<Record<string, unknown>>): GameFilter {
  const { shape } = gameFilterSchema;
  const filter: Record<string, unknown> = {};
  for (const name of Object.keys(shape) as (keyof typeof shape)[]) {
    const text = query[name];
    // a form sends what was not chosen as well
    if (typeof text !== 'string' || text === '') continue;
    const parsed = shape[name].safeParse(IDS.has(name) ? Number(text) : text);
    if (parsed.success) filter[name] = parsed.data;
  }
  return filter as GameFilter;
}

/** The same for an address. */
export const filterQuery = (filter: GameFilter): URLSearchParams =>
  new URLSearchParams(
    Object.entries(filter).flatMap(([name, value]) =>
      value === undefined ? [] : [[name, String(value)]],
    ),
  );

/** A filter without a part of it, and what would mean nothing without that. */
export const without = (filter: GameFilter, name: keyof GameFilter): GameFilter => ({
  ...filter,
  ...(name === 'player' ? { playing: undefined, viewpoint: undefined } : {}),
  [name]: undefined,
});
