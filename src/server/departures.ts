import { and, desc, eq, inArray, isNotNull, or } from 'drizzle-orm';
import type { Departure, LeftGame } from '@/contract/bases';
import type { Continuation } from '@/core/base/block';
import { suits } from '@/core/base/facts';
import { figuresOf, tallyOf } from '@/core/base/move-figures';
import { gameInfo } from '@/core/game/info';
import type { GameRecord } from '@/core/game/record';
import { GAME_KINDS, SIDES, type GameKind } from '@/core/game/ruleset';
import { mainLine, positionsAlong } from '@/core/game/tree';
import type { SweepSettings } from '@/core/review/sweep-settings';
import { parting, type Preparation } from '@/core/preparation/preparation';
import { rulesetOf } from '@/core/rulesets';
import { mayAsk } from './bases';
import { database } from './database';
import { playedGames } from './chosen-games';
import { selectGames } from './game-rows';
import { findGame, storedGame, type StoredGame } from './games';
import { loadBase, playedAt, type LoadedBase } from './loaded-base';
import type { Owner, OwnerRef } from './owner';
import { ownSideOf } from './own-side';
import { loadPreparation } from './preparation-sheets';
import { fingerprintOf } from './prepared-game';
import { baseGames, bases, games } from './schema';

/** Positions that are looked up at a time: most games leave a base early. */
const AT_ONCE = 12;

/** Where one of some games left a base, and what its owner had prepared: see the contract. */
export async function leftOf(
  owner: Owner,
  gameIds: readonly number[],
  preferred: readonly number[],
): Promise<LeftGame[]> {
  const asked = (
    await database().select(ASKED).from(bases).where(mayAsk(owner)).orderBy(desc(bases.size))
  ).toSorted((a, b) => rankIn(preferred, a.id) - rankIn(preferred, b.id));
  const rows = await selectGames()
    .where(and(playedGames(owner), inArray(games.id, [...gameIds])))
    .orderBy(games.id);
  const all = rows.map(storedGame);
  const perKind = GAME_KINDS.map((kind) => {
    const some = all.filter(({ record }) => record.tree.kind === kind);
    const base = asked.find((one) => one.kind === kind);
    return some.length > 0 ? leftIn(owner, kind, some, base) : [];
  });
  return (await Promise.all(perKind)).flat().sort((one, other) => one.id - other.id);
}

/** The same of games of one kind. */
async function leftIn(
  owner: Owner,
  kind: GameKind,
  some: readonly StoredGame[],
  asked: AskedBase | undefined,
): Promise<LeftGame[]> {
  const base = asked && (await loadBase(asked.id, asked.version, asked.indexed));
  const own = asked && (await ownNumbers(asked.id, some));
  const prepared = await Promise.all(SIDES.map((side) => loadPreparation({ owner, kind, side })));
  return Promise.all(
    some.map(async (game) => {
      const side = ownSideOf(owner, game.sides);
      return {
        id: game.id,
        base: base ? await leftBase(asked.name, base, game.record, own!(game)) : null,
        preparation:
          side === null ? null : leftPreparation(prepared[side]!.preparation, game.record),
      };
    }),
  );
}

/** Those that are preferred come first, in their order. */
function rankIn(preferred: readonly number[], id: number): number {
  const at = preferred.indexOf(id);
  return at === -1 ? preferred.length : at;
}

async function leftBase(
  name: string,
  base: LoadedBase,
  record: GameRecord,
  own: ReadonlySet<number>,
): Promise<LeftGame['base']> {
  const left = await departure(base, record, own);
  if (!left) return null;
  const { ply, games: count, usual } = left;
  return {
    name,
    left: ply === null ? null : leftAt(record, ply),
    games: count,
    usual: usual && { move: usual.move!, games: usual.games },
  };
}

function leftPreparation(preparation: Preparation, { tree }: GameRecord): LeftGame['preparation'] {
  const moves = mainLine(tree).map(({ move }) => move);
  const parted = parting(preparation, tree.start, moves);
  if (!parted) return null;
  const { ply, by, prepared } = parted;
  return {
    left: ply === null ? null : leftAt({ tree }, ply),
    by,
    prepared: prepared.map((move) => preparation.ruleset.code(move)),
  };
}

/** Before which move a game left something. @param ply of that move, from 1 */
function leftAt({ tree }: Pick<GameRecord, 'tree'>, ply: number) {
  const ruleset = rulesetOf(tree.kind);
  const line = mainLine(tree);
  const before = positionsAlong(ruleset, tree.start, line.slice(0, ply - 1)).at(-1)!;
  return {
    ply,
    position: ruleset.write(before),
    move: ruleset.code(line[ply - 1]!.move),
    side: ruleset.side(before),
  };
}

const ASKED = {
  id: bases.id,
  name: bases.name,
  kind: bases.kind,
  version: bases.version,
  indexed: bases.indexed,
};
type AskedBase = Pick<typeof bases.$inferSelect, keyof typeof ASKED>;

/** Where a game left each base of a reader's. @param owner whose game it is */
export async function departuresOf(
  owner: OwnerRef,
  reader: Owner,
  gameId: number,
): Promise<Departure[]> {
  const game = await findGame(owner, gameId);
  if (!game) return [];
  const { kind } = game.record.tree;
  const asked = await database()
    .select(ASKED)
    .from(bases)
    .where(and(mayAsk(reader), eq(bases.kind, kind)))
    .orderBy(bases.name);
  const found = await Promise.all(
    asked.map(async ({ id, name, version, indexed }) => {
      const base = await loadBase(id, version, indexed);
      const own = await ownNumbers(id, [game]);
      const left = await departure(base, game.record, own(game));
      return left && { base: { id, name }, ...left };
    }),
  );
  return found.filter((one) => one !== null);
}

/** The same settings with where a game left the base whose moves are to be passed over, instead of that base; all of a game that it does not know. */
export async function withoutKnown(
  owner: Owner,
  game: StoredGame,
  settings: SweepSettings,
): Promise<SweepSettings> {
  if (!('average' in settings) || settings.moves?.known === undefined) return settings;
  const { known, ...moves } = settings.moves;
  const { tree } = game.record;
  const [asked] = await database()
    .select(ASKED)
    .from(bases)
    .where(and(mayAsk(owner), eq(bases.id, known), eq(bases.kind, tree.kind)));
  const base = asked && (await loadBase(asked.id, asked.version, asked.indexed));
  const own = asked && (await ownNumbers(asked.id, [game]));
  const left = base ? await departure(base, game.record, own!(game)) : null;
  // of a game that it knows to its end, the last move alone
  const first = left ? (left.ply ?? mainLine(tree).length) : 1;
  const from = Math.min(Math.max(moves.from ?? 1, first), moves.to ?? Infinity);
  const scope = { ...moves, ...(from > 1 ? { from } : {}) };
  const { average } = settings;
  return Object.keys(scope).length > 0 ? { average, moves: scope } : { average };
}

/** Under which numbers a base holds some games themselves. */
async function ownNumbers(
  baseId: number,
  some: readonly StoredGame[],
): Promise<(game: StoredGame) => ReadonlySet<number>> {
  const printOf = ({ record }: StoredGame): string => fingerprintOf(record, gameInfo(record));
  const rows = await database()
    .select({
      number: baseGames.number,
      gameId: baseGames.gameId,
      fingerprint: baseGames.fingerprint,
    })
    .from(baseGames)
    .where(
      and(
        eq(baseGames.baseId, baseId),
        or(
          inArray(baseGames.fingerprint, some.map(printOf)),
          and(
            isNotNull(baseGames.gameId),
            inArray(
              baseGames.gameId,
              some.map(({ id }) => id),
            ),
          ),
        ),
      ),
    );
  return (game) => {
    const print = printOf(game);
    const own = rows.filter((row) => row.gameId === game.id || row.fingerprint === print);
    return new Set(own.map(({ number }) => number));
  };
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
    const met = { continuations: played, toMove: side, isWanted: isOther } as const;
    const figures = figuresOf([tallyOf(base.facts, met)]);
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
