import { and, eq, inArray } from 'drizzle-orm';
import type { GameRecord } from '@/core/game/record';
import type { GameKind, Ruleset, SearchRoot } from '@/core/game/ruleset';
import { mainLine, positionsAlong } from '@/core/game/tree';
import type { PositionEvaluation } from '@/core/review/review';
import { rulesetOf } from '@/core/rulesets';
import { database } from './database';
import { evaluations, type StoredLine } from './schema';

/** Under what an evaluation is stored: all that its value depends on. */
export interface EvaluationKey {
  kind: GameKind;
  key: bigint;
  history: string;
  engine: string;
  settings: string;
  /** The move that was priced; empty where all were searched. */
  onlyMove: string;
}

export interface Found {
  depth: number;
  nodes: number;
  milliseconds: number;
  lines: StoredLine[];
}

/** What of a root the position's key does not hold. */
export const historyText = ({ moveCount, repeated }: SearchRoot): string =>
  [
    ...(moveCount > 0 ? [`count ${moveCount}`] : []),
    ...repeated.map(({ position, checker }) => `${position} ${checker ?? '-'}`),
  ].join('; ');

/** A position of a main line with what its evaluations are stored under. */
export interface SweepPosition {
  ply: number;
  root: SearchRoot;
  key: bigint;
  history: string;
  /** UCI or USI; null at the end of the line. */
  played: string | null;
  /** Nothing to search: the game is over by mate or for want of moves or material. */
  over: boolean;
}

/** The positions of a game's main line, the start first. */
export function sweepPositions({ tree }: GameRecord): SweepPosition[] {
  const ruleset = rulesetOf(tree.kind);
  const line = mainLine(tree);
  const along = positionsAlong(ruleset, tree.start, line);
  return along.map((position, ply) => {
    const root = ruleset.searchRoot(position, along.slice(0, ply));
    return {
      ply,
      root,
      key: BigInt.asIntN(64, ruleset.key(position)),
      history: historyText(root),
      played: line[ply] ? ruleset.code(line[ply].move) : null,
      over: isOver(ruleset, position),
    };
  });
}

const isOver = <P>(ruleset: Ruleset<P>, position: P): boolean =>
  ruleset.status(position, []).state === 'over';

/** Stores what was found; where another was quicker, the first stays. */
export async function storeEvaluation(key: EvaluationKey, found: Found): Promise<void> {
  await database()
    .insert(evaluations)
    .values({ ...key, ...found, milliseconds: Math.round(found.milliseconds) })
    .onConflictDoNothing();
}

/** An evaluation with the nodes that its main search took; null where there is none. */
export type StoredEvaluation = (PositionEvaluation & { nodes: number }) | null;

/** What is known of each position of a game's main line under an engine and settings; null where nothing. */
export async function evaluationsOf(
  record: GameRecord,
  engine: string,
  settings: string,
): Promise<StoredEvaluation[]> {
  const along = sweepPositions(record);
  const rows = await database()
    .select()
    .from(evaluations)
    .where(
      and(
        inArray(
          evaluations.key,
          along.map(({ key }) => key),
        ),
        eq(evaluations.kind, record.tree.kind),
        eq(evaluations.engine, engine),
        eq(evaluations.settings, settings),
      ),
    );
  const name = (key: bigint, history: string, onlyMove: string): string =>
    `${key}|${history}|${onlyMove}`;
  const byName = new Map(rows.map((row) => [name(row.key, row.history, row.onlyMove), row]));
  return along.map(({ key, history, played }) => {
    const main = byName.get(name(key, history, ''));
    if (!main) return null;
    const priced = played === null ? undefined : byName.get(name(key, history, played));
    const [line] = priced?.lines ?? [];
    return {
      depth: main.depth,
      nodes: main.nodes,
      lines: main.lines,
      ...(line ? { played: line } : {}),
    };
  });
}
