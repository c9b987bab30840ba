import { z } from 'zod';
import type { Move } from '@/core/game/move';
import { RESULTS } from '@/core/game/result';
import type { GameKind } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';

export const headerSchema = z.object({
  first: z.string().trim().max(100),
  second: z.string().trim().max(100),
  firstRating: z
    .string()
    .trim()
    .regex(/^\d{0,4}$/),
  secondRating: z
    .string()
    .trim()
    .regex(/^\d{0,4}$/),
  event: z.string().trim().max(200),
  round: z.string().trim().max(20),
  date: z
    .string()
    .trim()
    .regex(/^(\d{4}(-\d\d(-\d\d)?)?)?$/),
  timeControl: z.string().trim().max(60),
  result: z.enum(RESULTS),
});
export type Header = z.infer<typeof headerSchema>;

export const EMPTY_HEADER: Header = {
  first: '',
  second: '',
  firstRating: '',
  secondRating: '',
  event: '',
  round: '',
  date: '',
  timeControl: '',
  result: '*',
};

export interface Entered {
  move: Move;
  /** Milliseconds spent, where the score sheet has them. */
  spent: number | null;
}

/** A game that is being entered: kept in the browser until it is saved, so that a closed page loses nothing. */
export interface Draft {
  start: string;
  moves: readonly Entered[];
  header: Header;
}

/** As kept: what is only being typed need not be right yet. */
const keptSchema = z.object({
  start: z.string().optional(),
  moves: z
    .array(z.object({ code: z.string(), spent: z.number().nonnegative().nullable() }))
    .optional(),
  header: z
    .record(z.string(), z.string())
    .transform((header) => ({ ...EMPTY_HEADER, ...header }) as Header)
    .optional(),
});

const placeOf = (kind: GameKind): string => `bektra-draft-${kind}`;
const LAST_KIND = 'bektra-draft-kind';

function keptOf(kind: GameKind): z.infer<typeof keptSchema> {
  try {
    return keptSchema.parse(JSON.parse(localStorage.getItem(placeOf(kind)) ?? '{}'));
  } catch {
    return {};
  }
}

/** The game last left half entered, or an empty one; moves that don't fit the position end it. */
export function loadDraft(kind: GameKind): Draft {
  const ruleset = rulesetOf(kind);
  const kept = keptOf(kind);
  const header = kept.header ?? EMPTY_HEADER;
  const moves: Entered[] = [];
  try {
    const start = kept.start ?? ruleset.startText;
    let position = ruleset.start(start);
    for (const { code, spent } of kept.moves ?? []) {
      const move = ruleset.parseCode(code);
      if (move === null || !ruleset.isLegal(position, move)) break;
      moves.push({ move, spent });
      position = ruleset.play(position, move);
    }
    return { start, moves, header };
  } catch {
    return { start: ruleset.startText, moves: [], header };
  }
}

/** Keeps a part of the game that is being entered. */
export function keepDraft(kind: GameKind, part: Partial<Draft>): void {
  const { code } = rulesetOf(kind);
  const { moves, ...rest } = part;
  const kept = {
    ...keptOf(kind),
    ...rest,
    ...(moves && { moves: moves.map(({ move, spent }) => ({ code: code(move), spent })) }),
  };
  try {
    localStorage.setItem(placeOf(kind), JSON.stringify(kept));
    localStorage.setItem(LAST_KIND, kind);
  } catch {
    // without room to keep it the game can still be entered
  }
}

export function forgetDraft(kind: GameKind): void {
  try {
    localStorage.removeItem(placeOf(kind));
  } catch {
    // what could not be kept need not be forgotten
  }
}

/** The game of the last draft; chess before there has been one. */
export function lastKind(): GameKind {
  try {
    return localStorage.getItem(LAST_KIND) === 'shogi' ? 'shogi' : 'chess';
  } catch {
    return 'chess';
  }
}
