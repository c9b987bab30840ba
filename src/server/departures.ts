import { and, eq, or, sql } from 'drizzle-orm';
import type { Departure } from '@/contract/bases';
import type { Continuation } from '@/core/base/block';
import { suits } from '@/core/base/facts';
import { moveFigures } from '@/core/base/move-figures';
import { gameInfo } from '@/core/game/info';
import type { GameRecord } from '@/core/game/record';
import { mainLine } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';
import { mayAsk } from './bases';
import { database } from './database';
import { findGame } from './games';
import { loadBase, playedAt, type LoadedBase } from './loaded-base';
import type { Owner, OwnerRef } from './owner';
import { fingerprintOf } from './prepared-game';
import { baseGames, bases } from './schema';

/** Positions that are looked up at a time: most games leave a base early. */
const AT_ONCE = 12;

/** Where a game left each base of a reader's. @param owner whose game it is */
export async function departuresOf(
  owner: OwnerRef,
  reader: Owner,
  gameId: number,
): Promise<Departure[]> {
  const game = await findGame(owner, gameId);
  if (!game) return [];
  const { kind } = game.record.tree;
  const fingerprint = fingerprintOf(game.record, gameInfo(game.record));
  const asked = await database()
    .select({ id: bases.id, name: bases.name, version: bases.version, indexed: bases.indexed })
    .from(bases)
    .where(and(mayAsk(reader), eq(bases.kind, kind)))
    .orderBy(bases.name);
  const found = await Promise.all(
    asked.map(async ({ id, name, version, indexed }) => {
      const base = await loadBase(id, version, indexed);
      const own = await ownNumbers(id, gameId, fingerprint);
      const left = await departure(base, game.record, own);
      return left && { base: { id, name }, ...left };
    }),
  );
  return found.filter((one) => one !== null);
}

/** Under which numbers a base holds the game itself. */
async function ownNumbers(
  baseId: number,
  gameId: number,
  fingerprint: string,
): Promise<ReadonlySet<number>> {
  const rows = await database()
    .select({ number: baseGames.number })
    .from(baseGames)
    .where(
      and(
        eq(baseGames.baseId, baseId),
        or(
          eq(baseGames.fingerprint, fingerprint),
          sql`game_id is not null and game_id = ${gameId}`,
        ),
      ),
    );
  return new Set(rows.map(({ number }) => number));
}

async function departure(
  base: LoadedBase,
  { tree }: GameRecord,
  own: ReadonlySet<number>,
): Promise<Omit<Departure, 'base'> | null> {
  const ruleset = rulesetOf(tree.kind);
  const start = ruleset.start(tree.start);
  const moves = mainLine(tree).map(({ move }) => move);
  const keys = ruleset.keysAlong(start, moves);
  const counts = suits(base.facts, {}, 0);
  const isOther = (one: number): boolean => counts(one) && !own.has(one);
  const told = (played: readonly Continuation[], ply: number | null) => {
    const side = ruleset.side(start) === (ply ?? 1) % 2 ? 1 : 0;
    const figures = moveFigures(base.facts, played, side, isOther);
    const usual = figures.find(({ move }) => move !== null) ?? null;
    return {
      games: figures.reduce((sum, { games }) => sum + games, 0),
      ply,
      usual: usual && { ...usual, move: ruleset.code(usual.move!) },
    };
  };
  for (let from = 0; from < keys.length; from += AT_ONCE) {
    const some = keys.slice(from, from + AT_ONCE);
    for (const [index, played] of (await playedAt(base, some)).entries()) {
      const ply = from + index;
      const next = moves[ply];
      const went = played.find(({ move }) => move === next)?.games.some(isOther) ?? false;
      if (next === undefined) return told(played, null);
      if (went) continue;
      const left = told(played, ply + 1);
      return ply === 0 && left.games === 0 ? null : left;
    }
  }
  return null;
}
