import { and, eq, inArray } from 'drizzle-orm';
import { CalledOff, questionText, type Answer, type Ask, type Question } from '@/core/ask/question';
import { sweepGame } from '@/core/ask/sweep-game';
import {
  sweptAlong,
  sweptPositions,
  variationsOf,
  type Found,
  type Swept,
  type SweptPosition,
} from '@/core/ask/swept';
import type { GameRecord } from '@/core/game/record';
import type { GameKind, SearchRoot } from '@/core/game/ruleset';
import type { SweepSettings } from '@/core/review/sweep-settings';
import { rulesetOf } from '@/core/rulesets';
import { database } from './database';
import { evaluations } from './schema';

/** As what answers from tables of endings are stored, in place of an engine's version. */
const TABLES = 'tables-1';

const NOT_LOOKED: Answer = { depth: 0, nodes: 0, milliseconds: 0, lines: [] };

/** A key of 64 bits as PostgreSQL's signed integers hold it. */
const signed = (key: bigint): bigint => BigInt.asIntN(64, key);

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

/** What is stored under a key; null where nothing is. */
async function findEvaluation(key: EvaluationKey): Promise<Answer | null> {
  const [row] = await database()
    .select()
    .from(evaluations)
    .where(
      and(
        eq(evaluations.key, key.key),
        eq(evaluations.kind, key.kind),
        eq(evaluations.history, key.history),
        eq(evaluations.engine, key.engine),
        eq(evaluations.settings, key.settings),
        eq(evaluations.onlyMove, key.onlyMove),
      ),
    );
  return row ?? null;
}

/** Answers a question by what is known of it by then, or by a search that nobody else does at the same time. */
type Claim = (
  name: string,
  known: () => Promise<Answer | null>,
  search: () => Promise<Answer>,
) => Promise<Answer>;

/** What an engine is known to have answered about a game's main-line positions: it depends on nothing else, and is not asked again. */
export class KnownEvaluations {
  private readonly answers = new Map<string, Promise<Answer>>();

  private constructor(
    private readonly record: GameRecord,
    private readonly engine: string,
  ) {}

  /** @param withVariations what is known of their positions is wanted too */
  static async load(
    record: GameRecord,
    engine: string,
    withVariations = false,
  ): Promise<KnownEvaluations> {
    const { tree } = record;
    const { kind } = tree;
    const known = new KnownEvaluations(record, engine);
    const own = withVariations ? variationsOf(tree) : [];
    const along = own.flatMap(({ nodes, from }) => sweptAlong(tree, nodes).slice(from));
    const keys = [...sweptPositions(record), ...along].map(
      (position) => positionKey(kind, position).key,
    );
    const rows = await database()
      .select()
      .from(evaluations)
      .where(
        and(
          inArray(evaluations.key, keys),
          eq(evaluations.kind, kind),
          inArray(evaluations.engine, [engine, TABLES]),
        ),
      );
    // what is exact stands above what an engine said
    rows.sort((one, other) => Number(one.engine === TABLES) - Number(other.engine === TABLES));
    for (const row of rows)
      known.answers.set(nameOf(row, row.settings, row.onlyMove), Promise.resolve(row));
    return known;
  }

  /**
   * Answers from what is exact, then from what is known, else asks, and stores the answer before it is told.
   * @param claim sees to it that nobody else asks the same
   * @param exact what tables of endings answer
   */
  remember(
    ask: Ask,
    claim: Claim = (_, __, search) => search(),
    exact: (question: Question) => Answer | null = () => null,
  ): Ask {
    return async (question: Question) => {
      const { at, settings, onlyMove, name } = this.identify(question);
      const certain = exact(question);
      if (certain) {
        const key = { kind: question.kind, ...at, engine: TABLES, settings, onlyMove };
        await storeEvaluation(key, certain);
        return certain;
      }
      const known = this.answers.get(name);
      if (known) return known;
      const key = { kind: question.kind, ...at, engine: this.engine, settings, onlyMove };
      const asking = claim(
        `${key.kind}|${key.engine}|${name}`,
        () => findEvaluation(key),
        async () => {
          const answer = await ask(question);
          await storeEvaluation(key, answer);
          return answer;
        },
      );
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

  /** What a sweep has found, from what is known alone. */
  async found(settings: SweepSettings): Promise<Found> {
    const ask: Ask = (question) =>
      this.answers.get(this.identify(question).name) ??
      // sweeps that are older than it have not looked for mates
      (question.checks ? Promise.resolve(NOT_LOOKED) : Promise.reject(new CalledOff()));
    let latest: Swept | null = null;
    try {
      return await sweepGame(this.record, settings)(ask, (swept) => (latest = swept));
    } catch (error) {
      if (!(error instanceof CalledOff)) throw error;
      return (
        latest ?? {
          evaluations: () => sweptPositions(this.record).map(() => null),
          variations: () => [],
        }
      );
    }
  }
}

const nameOf = ({ key, history }: PositionKey, settings: string, onlyMove: string): string =>
  `${key}|${history}|${settings}|${onlyMove}`;
