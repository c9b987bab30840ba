import type { Result } from '@/core/game/result';
import type { GameKind } from '@/core/game/ruleset';

const NAMES = { '1-0': 'first', '0-1': 'second', '1/2-1/2': 'draw', '*': 'open' } as const;

/** The name of a result under `results` in the message catalogues; the sides of a handicap game have names of their own. */
export const resultKey = (
  { kind, handicap }: { kind: GameKind; handicap: string | null },
  result: Result,
) => `${handicap === null ? kind : ('handicap' as const)}.${NAMES[result]}` as const;
