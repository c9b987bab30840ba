import type { PreparationGap } from '@/contract/preparation';
import type { GameKind, Position } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { gameHref } from '../desk-href';
import { readLine, type LineMove } from '../move-text';
import { useShogiNotation } from '../preferences';
import type { Shown } from './shown';

/** A gap as it is written: from the start to what is missing, and where its line goes on in the sheet. */
export function useGap(
  kind: GameKind,
  { at, start, way, move }: PreparationGap,
): { line: readonly LineMove[]; before: Position; href: string; shown: Shown } {
  const ruleset = rulesetOf(kind);
  const codes = move === null ? way : [...way, move];
  const line = readLine(ruleset, ruleset.start(start), codes, null, useShogiNotation());
  const last = line.at(-1);
  return {
    line,
    before: line.at(-2)?.position ?? ruleset.start(start),
    href: gameHref(at.sheet, at.node),
    shown: { position: last ? ruleset.write(last.position) : start, move: last?.code ?? null },
  };
}
