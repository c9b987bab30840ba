import type { GameKind, SearchRoot } from '../game/ruleset';
import { isInScope, type Effort, type Scope } from '../review/sweep-settings';
import { THRESHOLDS } from '../review/verdict';
import { lossIn } from '../review/verdict-holds';
import { rulesetOf } from '../rulesets';
import { GameLooks, LOOKS, SHORT } from './game-looks';
import { howFarAhead } from './how-far-ahead';
import { isQuiet } from './mate';
import { allEnded, type Answer, type Plan, type Question } from './question';
import type { LineSwept, SweptPosition } from './swept';

/** Lines that are compared where the best move was played, which may be the only one, and where another was. */
const [FOR_ONLY, FOR_RANK] = [2, 6];
const [BRIEFLY, LONGER] = LOOKS;
/** What a glance at two lines takes: it tells where there is no only move, which is nearly everywhere. */
export const GLANCE = 0.042;
/** Points by which the best has to lead after a glance for a second look. */
const LEAD = 4;
/** Points about the margin of an only move within which it is looked at once more. */
const MARGIN_DOUBT = 4;
/** What a position is going to take beyond the short look, on average: to tell how far a sweep has come. */
const EXPECTED = 0.5;

/** What is asked about a position for a share of the effort. */
export function shareQuestion(
  kind: GameKind,
  root: SearchRoot,
  { nodes, milliseconds }: Effort,
  share: number,
  lines: number,
): Question {
  const part = (whole: number): number => Math.max(1, Math.round(whole * share));
  const budget =
    nodes === undefined ? { milliseconds: part(milliseconds!) } : { nodes: part(nodes) };
  return { kind, root, budget: { ...budget, mate: true }, lines, fresh: true };
}

/** Positions expanded in looking for a mate: less than a tenth of a second, and ten times as many as most mates of games take. */
const MATE_NODES = 30_000;

/**
 * Whether there is a mate by check after check at a position: asked of shogi, where that is how games end, and a search alone sees the
 * shorter ones. In chess a mate of a game is one that the search sees, or the tables.
 */
const mateQuestion = (kind: GameKind, root: SearchRoot): Question => ({
  kind,
  root,
  budget: { nodes: MATE_NODES },
  lines: 1,
  checks: true,
  fresh: true,
});

/**
 * Goes over a line with an effort that it distributes: a short look at every position, then longer ones where a verdict might still
 * change, until none does or the last look is spent; at last, how far ahead one had to look for what the verdicts say. What is asked follows from the answers alone, in whatever order they come.
 */
export const settleGame =
  (
    kind: GameKind,
    positions: readonly SweptPosition[],
    effort: Effort,
    scope: Omit<Scope, 'over'> = {},
  ): Plan<LineSwept> =>
  async (ask, tell) => {
    const ruleset = rulesetOf(kind);
    const known = new GameLooks(ruleset, positions);
    /** The move at a ply is one that was asked for. */
    const isAsked = (ply: number): boolean =>
      typeof positions[ply]?.played === 'string' &&
      isInScope(scope, ruleset.side(positions[ply].position), ply + 1);
    const isWhole = Object.keys(scope).length === 0;
    const plies = positions
      .map(({ ply }) => ply)
      .filter((ply) => isWhole || isAsked(ply) || isAsked(ply - 1));
    const total = plies.length;
    const evaluations = () =>
      known
        .evaluations()
        .map((found, ply) =>
          found && !isWhole && !isAsked(ply) ? { ...found, isOutside: true } : found,
        );
    let [spent, wanted, short, done] = [0, 0, 0, 0];
    const begun = new Set<string>();

    const put = async (ply: number, share: number, lines: number): Promise<Answer> => {
      wanted += share;
      const answer = await ask(shareQuestion(kind, positions[ply]!.root, effort, share, lines));
      spent += share;
      return answer;
    };
    const mates = new Map<number, Promise<Answer | null>>();
    /** A mate that is proved is all there is to know of a position, however long it is looked at. */
    const mateAt = (ply: number): Promise<Answer | null> => {
      const known = mates.get(ply);
      if (known) return known;
      const looked = ask(mateQuestion(kind, positions[ply]!.root)).then((answer) =>
        answer.lines.length > 0 ? answer : null,
      );
      mates.set(ply, looked);
      return looked;
    };
    const answerAt = async (ply: number, index: number): Promise<Answer> =>
      (isQuiet(kind) ? null : await mateAt(ply)) ?? (await put(ply, LOOKS[index]!, 1));
    const news = (): void => {
      const ahead = wanted + EXPECTED * (total - short);
      done = Math.max(done, Math.floor((total * spent) / ahead));
      tell({ done, total, evaluations });
    };
    const once = async (name: string, part: () => Promise<void>): Promise<void> => {
      if (begun.has(name)) return;
      begun.add(name);
      await part();
    };

    const look = (ply: number, index: number): Promise<void> =>
      once(`look ${ply} ${index}`, async () => {
        if (positions[ply]!.over === null) known.addLook(ply, index, await answerAt(ply, index));
        if (index === SHORT) short++;
        news();
        await allEnded([follow(ply - 1), follow(ply)]);
      });

    const compare = async (ply: number, lines: number, share: number): Promise<Answer> => {
      const answer = await put(ply, share, lines);
      known.addComparison(ply, answer);
      news();
      return answer;
    };
    const rank = (ply: number): Promise<void> =>
      once(`rank ${ply}`, async () => void (await compare(ply, FOR_RANK, BRIEFLY)));
    /** Whether the best is the only move: a glance, then longer looks while that is in doubt. */
    const findOnly = (ply: number): Promise<void> =>
      once(`only ${ply}`, async () => {
        const leadAfter = async (share: number): Promise<number> => {
          const [best, second] = (await compare(ply, FOR_ONLY, share)).lines;
          return best && second
            ? known.chance(best.score, ply) - known.chance(second.score, ply)
            : 0;
        };
        if ((await leadAfter(GLANCE)) < LEAD) return;
        const lead = await leadAfter(BRIEFLY);
        if (Math.abs(lead - THRESHOLDS.mistake) < MARGIN_DOUBT) await leadAfter(LONGER);
      });

    /** Begins what follows from the looks there are before and after the move at a ply. */
    const follow = async (ply: number): Promise<void> => {
      if (!isAsked(ply) || !known.isChoice(ply)) return;
      const parts: Promise<void>[] = [];
      for (let index = SHORT; index < LOOKS.length; index++) {
        const now = known.move(ply, index);
        if (!now) {
          if (known.hasChanged(ply, index)) parts.push(look(ply + 1, index));
          break;
        }
        if (!now.isBest && lossIn(now) >= THRESHOLDS.inaccuracy) parts.push(rank(ply));
        if (now.isBest && !known.takesBack(ply)) parts.push(findOnly(ply));
        if (index + 1 < LOOKS.length && known.isOpen(ply, index))
          parts.push(look(ply, index + 1), look(ply + 1, index + 1));
      }
      await allEnded(parts);
    };

    tell({ done, total, evaluations });
    await allEnded(plies.map((ply) => look(ply, SHORT)));
    await allEnded(
      known
        .sights()
        .filter(([ply]) => isAsked(ply))
        .map(async ([ply, sight]) => {
          const { root, position } = positions[ply]!;
          const at = { kind, root, side: ruleset.side(position) };
          known.addSeen(ply, await howFarAhead(ask, at, sight, effort));
          tell({ done, total, evaluations });
        }),
    );
    return { done: total, total, evaluations };
  };
