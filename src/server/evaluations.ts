import { and, eq, inArray } from 'drizzle-orm';
import { evaluationOf } from '@/core/ask/evaluate';
import type { Answer, Ask, Question } from '@/core/ask/question';
import { sweptPositions, type SweptPosition } from '@/core/ask/sweep-game';
import type { GameRecord } from '@/core/game/record';
import type { GameKind, SearchRoot } from '@/core/game/ruleset';
import type { PositionEvaluation } from '@/core/review/evaluation';
import { rulesetOf } from '@/core/rulesets';
import { database } from './database';
import { signed } from './prepared-game';
import { evaluations } from './schema';

/** Under what a position's evaluations are stored. */
interface PositionKey {
  key: bigint;
  /** What of a root the position's key does not hold. */
  history: string;
}

/** All that the value of an evaluation depends on. */
export interface EvaluationKey extends PositionKey {
  kind: GameKind;
  engine: string;
  settings: string;
  /** The move that was priced; empty where all were searched. */
  onlyMove: string;
}

export const historyText = ({ moveCount, repeated }: SearchRoot): string =>
  [
    ...(moveCount > 0 ? [`count ${moveCount}`] : []),
    ...repeated.map(({ position, checker }) => `${position} ${checker ?? '-'}`),
  ].join('; ');

export const positionKey = (
  kind: GameKind,
  { position, root }: Pick<SweptPosition, 'position' | 'root'>,
): PositionKey => ({
  key: signed(rulesetOf(kind).key(position)),
  history: historyText(root),
});

/** Stores what was found; where another was quicker, the first stays. */
export async function storeEvaluation(
  key: EvaluationKey,
  { depth, nodes, milliseconds, lines }: Answer,
): Promise<void> {
  await database()
    .insert(evaluations)
    .values({
      ...key,
      depth,
      nodes,
      milliseconds: Math.round(milliseconds),
      lines: lines.map(({ score, moves }) => ({ score, moves: [...moves] })),
    })
    .onConflictDoNothing();
}

/**
 * What is known of a game's main-line positions under an engine and settings. An evaluation depends on nothing else, so what
 * is known need not be asked again.
 */
export class KnownEvaluations {
  private readonly answers = new Map<string, Answer>();
  private readonly storing: Promise<void>[] = [];

  private constructor(
    private readonly record: GameRecord,
    private readonly positions: readonly SweptPosition[],
    private readonly engine: string,
    private readonly settings: string,
  ) {}

  /** How many positions there are, of which anything is known or not. */
  get size(): number {
    return this.positions.length;
  }

  static async load(
    record: GameRecord,
    engine: string,
    settings: string,
  ): Promise<KnownEvaluations> {
    const { kind } = record.tree;
    const positions = sweptPositions(record);
    const known = new KnownEvaluations(record, positions, engine, settings);
    const rows = await database()
      .select()
      .from(evaluations)
      .where(
        and(
          inArray(
            evaluations.key,
            positions.map((position) => positionKey(kind, position).key),
          ),
          eq(evaluations.kind, kind),
          eq(evaluations.engine, engine),
          eq(evaluations.settings, settings),
        ),
      );
    for (const row of rows) known.answers.set(nameOf(row, row.onlyMove), row);
    return known;
  }

  /** Answers from what is known, else asks, and stores the answer; the engine need not wait for that. */
  remember(ask: Ask): Ask {
    const { kind } = this.record.tree;
    return async (question: Question) => {
      const position = rulesetOf(kind).start(question.root.position);
      const at = positionKey(kind, { position, root: question.root });
      const onlyMove = question.only?.[0] ?? '';
      const name = nameOf(at, onlyMove);
      const known = this.answers.get(name);
      if (known) return known;
      const answer = await ask(question);
      this.answers.set(name, answer);
      const { engine, settings } = this;
      const stored = storeEvaluation({ kind, ...at, engine, settings, onlyMove }, answer);
      // who waits for all of them hears of a failure
      stored.catch(() => undefined);
      this.storing.push(stored);
      return answer;
    };
  }

  /** Resolves once all that has been answered so far is stored. */
  async stored(): Promise<void> {
    await Promise.all(this.storing);
  }

  /** By ply; null where nothing is known. */
  evaluations(): (PositionEvaluation | null)[] {
    return this.positions.map((position) => {
      const at = positionKey(this.record.tree.kind, position);
      const main = this.answers.get(nameOf(at, ''));
      if (!main) return null;
      const { played } = position;
      const priced = played === null ? undefined : this.answers.get(nameOf(at, played));
      return evaluationOf({ main, priced: priced ?? null });
    });
  }
}

const nameOf = ({ key, history }: PositionKey, onlyMove: string): string =>
  `${key}|${history}|${onlyMove}`;
