import type {
  CheckedGame,
  Doubt,
  GameParting,
  PreparationGap,
  PreparedHere,
  PreparedStretch,
} from '@/contract/preparation';
import { suits } from '@/core/base/facts';
import { otherSide, PositionError, type GameKind, type Position, SIDES } from '@/core/game/ruleset';
import { mainLine, nodeOf, pathTo, positionsAlong, ROOT, type NodeId } from '@/core/game/tree';
import { expectations, type Gap, type RepliesAt } from '@/core/preparation/expectation';
import { outlineOf } from '@/core/preparation/outline';
import { parting } from '@/core/preparation/preparation';
import { isFlag } from '@/core/review/verdict';
import { rulesetOf } from '@/core/rulesets';
import { findBase } from './bases';
import { findingsOf, presentFindings } from './findings';
import { findGame, recordOf } from './games';
import { loadBase, playedAt } from './loaded-base';
import type { Owner, OwnerRef } from './owner';
import { loadPreparation, ownGames, type Loaded, type Which } from './preparation-sheets';

/** Of 1: what comes less often is not gone into. */
const LEAST_EXPECTED = 0.002;
/** Gaps that are told of, the most frequent. */
const MOST_GAPS = 300;
/** Own games that are checked, the latest. */
const CHECKED_GAMES = 200;

/** A base by whose games is reckoned what opponents play, and which of them, by their ratings. */
export interface Opponents {
  base: number;
  rating: readonly [number, number] | undefined;
}

/** A preparation stretch by stretch, with what is to be expected and what is missing by the games of a base; null: no such base. */
export async function showPreparation(
  which: Which & { owner: Owner },
  opponents: Opponents | null,
): Promise<{ stretches: PreparedStretch[]; gaps: PreparationGap[] } | null> {
  const found = await loadPreparation(which);
  const replies = opponents && (await repliesOf(which, opponents));
  if (opponents && !replies) return null;
  const { expected, gaps } = replies
    ? await expectations(found.preparation, replies, LEAST_EXPECTED)
    : { expected: null, gaps: [] };
  const told = gaps.slice(0, MOST_GAPS);
  return {
    stretches: stretchesOf(found, expected, told),
    gaps: told.map((gap) => gapTold(found, gap)),
  };
}

/** What the games of a base that suit went on with. */
async function repliesOf(
  { owner, kind, side }: Which & { owner: Owner },
  { base: id, rating }: Opponents,
): Promise<RepliesAt | null> {
  const row = await findBase(owner, id, kind);
  if (!row) return null;
  const base = await loadBase(id, row.version, row.indexed);
  const isWanted = suits(base.facts, rating ? { rating } : {}, otherSide(side));
  return async (keys) =>
    (await playedAt(base, keys)).map((played) =>
      played.flatMap(({ move, games }) => {
        let count = 0;
        for (const game of games) if (isWanted(game)) count++;
        return move !== null && count > 0 ? [{ move, games: count }] : [];
      }),
    );
}

function stretchesOf(
  { preparation: { ruleset }, sheets }: Loaded,
  expected: ReadonlyMap<bigint, number> | null,
  gaps: readonly Gap[],
): PreparedStretch[] {
  const split = new Set(gaps.map(({ at }) => `${at.sheet} ${at.node}`));
  return sheets.flatMap(({ id: sheet, tree }) => {
    const behind = new Map<NodeId | null, Position>([[0, ruleset.start(tree.start)]]);
    return outlineOf(tree, (node) => split.has(`${sheet} ${node}`)).map(({ nodes, depth }) => {
      const line = nodes.map((id) => nodeOf(tree, id));
      const before = behind.get(line[0]!.parent)!;
      const positions = positionsAlong(ruleset, ruleset.write(before), line);
      behind.set(nodes.at(-1)!, positions.at(-1)!);
      const often = expected?.get(ruleset.key(positions[1]!));
      return {
        sheet,
        node: nodes[0]!,
        depth,
        position: ruleset.write(before),
        moves: line.map(({ move }) => ruleset.code(move)),
        nodes: [...nodes],
        expected: often === undefined ? null : 100 * often,
      };
    });
  });
}

function gapTold(
  { preparation: { ruleset }, sheets }: Loaded,
  { way, move, expected, ...gap }: Gap,
): PreparationGap {
  const { tree } = sheets.find(({ id }) => id === gap.at.sheet)!;
  return {
    ...gap,
    start: tree.start,
    way: way.map((one) => ruleset.code(one)),
    move: move === null ? null : ruleset.code(move),
    expected: 100 * expected,
  };
}

/** Where an owner's latest games of a side left what they have prepared. */
export async function checkGames(which: Which & { owner: Owner }): Promise<CheckedGame[]> {
  const { preparation } = await loadPreparation(which);
  const { ruleset, positions } = preparation;
  if (positions.size === 0) return [];
  const checked: CheckedGame[] = [];
  for await (const row of ownGames(which, CHECKED_GAMES)) {
    const line = mainLine(recordOf(row).tree);
    const moves = line.map(({ move }) => move);
    const left = parting(preparation, row.start, moves);
    if (!left) continue;
    const shared = left.ply === null ? line : line.slice(0, left.ply - 1);
    const next = line[shared.length];
    checked.push({
      id: row.id,
      players: [row.firstPlayer, row.secondPlayer],
      result: row.result,
      date: row.date,
      ply: left.ply,
      by: left.by,
      prepared: left.prepared.map((move) => ruleset.code(move)),
      position: ruleset.write(positionsAlong(ruleset, row.start, shared).at(-1)!),
      move: next ? ruleset.code(next.move) : null,
      node: (next ?? shared.at(-1))?.id ?? ROOT,
    });
  }
  return checked;
}

/** Where a game left a reader's preparations. @param owner whose game it is */
export async function partingsOf(
  owner: OwnerRef,
  reader: OwnerRef,
  gameId: number,
): Promise<GameParting[]> {
  const game = await findGame(owner, gameId);
  if (!game) return [];
  const { tree } = game.record;
  const moves = mainLine(tree).map(({ move }) => move);
  const all = await Promise.all(
    SIDES.map(async (side): Promise<GameParting[]> => {
      const { preparation, sheets } = await loadPreparation({
        owner: reader,
        kind: tree.kind,
        side,
      });
      // a sheet would be found in itself
      if (sheets.some(({ id }) => id === gameId)) return [];
      const left = parting(preparation, tree.start, moves);
      const code = preparation.ruleset.code;
      return left ? [{ side, ...left, prepared: left.prepared.map((move) => code(move)) }] : [];
    }),
  );
  return all.flat();
}

/** What an owner's preparations hold of a position; null where the text is none. */
export async function findPrepared(
  owner: OwnerRef,
  kind: GameKind,
  text: string,
): Promise<PreparedHere[] | null> {
  const ruleset = rulesetOf(kind);
  try {
    const key = ruleset.key(ruleset.start(text));
    const all = await Promise.all(
      SIDES.map(async (side): Promise<PreparedHere[]> => {
        const { preparation } = await loadPreparation({ owner, kind, side });
        const here = preparation.positions.get(key);
        if (!here) return [];
        return [{ side, moves: here.moves.map(({ move }) => ruleset.code(move)), at: here.at }];
      }),
    );
    return all.flat();
  } catch (error) {
    if (error instanceof PositionError) return null;
    throw error;
  }
}

/** Own moves of a preparation that sweeps of its sheets call errors. */
export async function listDoubts(which: Which): Promise<Doubt[]> {
  const { sheets, preparation } = await loadPreparation(which);
  const { ruleset } = preparation;
  const all = await Promise.all(
    sheets.map(async ({ id: sheet }): Promise<Doubt[]> => {
      const game = await findGame(which.owner, sheet);
      const found = game && (await findingsOf(which.owner, game));
      if (!found) return [];
      const { tree } = game.record;
      const main = mainLine(tree);
      const reviews = [
        ...presentFindings(game, found).moves.flatMap((review, index) =>
          review && main[index] ? [[main[index].id, review] as const] : [],
        ),
        ...found.findings.variations.filter(([node]) => tree.nodes.has(node)),
      ];
      return reviews.flatMap(([node, { side, verdict, loss, playedScore, betterLine }]) => {
        if (side !== which.side || !isFlag(verdict)) return [];
        const path = pathTo(tree, node);
        const before = positionsAlong(ruleset, tree.start, path.slice(0, -1)).at(-1)!;
        return {
          at: { sheet, node },
          position: ruleset.write(before),
          move: ruleset.code(path.at(-1)!.move),
          verdict,
          loss,
          score: playedScore,
          better: [...betterLine],
        };
      });
    }),
  );
  return all.flat().sort((a, b) => b.loss - a.loss);
}
