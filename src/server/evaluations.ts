import { and, eq, inArray } from 'drizzle-orm';
import { CalledOff, questionText, type Answer, type Ask, type Question } from '@/core/ask/question';
import { sweepGame } from '@/core/ask/sweep-game';
import { sweptPositions, type Swept, type SweptPosition } from '@/core/ask/swept';
import type { GameRecord } from '@/core/game/record';
import type { GameKind, SearchRoot } from '@/core/game/ruleset';
import type { PositionEvaluation } from '@/core/review/evaluation';
import type { SweepSettings } from '@/core/review/sweep-settings';
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
  /** As `questionText` writes them. */
  settings: string;
  /** The moves that there were to choose from; empty where all were searched. */
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

/** What an engine is known to have answered about a game's main-line positions: it depends on nothing else, and is not asked again. */
export class KnownEvaluations {
  private readonly answers = new Map<string, Promise<Answer>>();
  private readonly storing: Promise<void>[] = [];

  private constructor(
    private readonly record: GameRecord,
    private readonly engine: string,
  ) {}

  static async load(record: GameRecord, engine: string): Promise<KnownEvaluations> {
    const { kind } = record.tree;
    const known = new KnownEvaluations(record, engine);
    const keys = sweptPositions(record).map((position) => positionKey(kind, position).key);
    const rows = await database()
      .select()
      .from(evaluations)
      .where(
        and(
          inArray(evaluations.key, keys),
          eq(evaluations.kind, kind),
          eq(evaluations.engine, engine),
        ),
      );
    for (const row of rows)
      known.answers.set(nameOf(row, row.settings, row.onlyMove), Promise.resolve(row));
    return known;
  }

  /** Answers from what is known, else asks, and stores the answer; the engine need not wait for that. */
  remember(ask: Ask): Ask {
    return (question: Question) => {
      const { at, settings, onlyMove, name } = this.identify(question);
      const known = this.answers.get(name);
      if (known) return known;
      const asking = ask(question).then((answer) => {
        const key = { kind: question.kind, ...at, engine: this.engine, settings, onlyMove };
        const stored = storeEvaluation(key, answer);
        // who waits for all of them hears of a failure
        stored.catch(() => undefined);
        this.storing.push(stored);
        return answer;
      });
      this.answers.set(name, asking);
      asking.catch(() => this.answers.delete(name));
      return asking;
    };
  }

  private identify({ kind, root, only, ...question }: Question) {
    const position = rulesetOf(kind).start(root.position);
    const at = positionKey(kind, { position, root });
    const [settings, onlyMove] = [questionText(question), (only ?? []).join(' ')];
    return { at, settings, onlyMove, name: nameOf(at, settings, onlyMove) };
  }

  /** Resolves once all that has been answered so far is stored. */
  async stored(): Promise<void> {
    await Promise.all(this.storing);
  }

  /** What a sweep has found, from what is known alone; by ply, null where nothing is. */
  async evaluations(settings: SweepSettings): Promise<readonly (PositionEvaluation | null)[]> {
    const ask: Ask = (question) =>
      this.answers.get(this.identify(question).name) ?? Promise.reject(new CalledOff());
    let latest: Swept | null = null;
    try {
      return (
        await sweepGame(this.record, settings)(ask, (swept) => (latest = swept))
      ).evaluations();
    } catch (error) {
      if (!(error instanceof CalledOff)) throw error;
      return (latest as Swept | null)?.evaluations() ?? sweptPositions(this.record).map(() => null);
    }
  }
}

const nameOf = ({ key, history }: PositionKey, settings: string, onlyMove: string): string =>
  `${key}|${history}|${settings}|${onlyMove}`;
