import { and, asc, desc, eq, inArray, sql } from 'drizzle-orm';
import type { Sheet as SheetSummary } from '@/contract/preparation';
import { wordOfSide } from '@/contract/shapes';
import { insertTree } from '@/core/game/edits';
import type { GameKind, Side } from '@/core/game/ruleset';
import { freshId, type Step } from '@/core/game/steps';
import { mainLine, ROOT, treeLimit, type GameTree } from '@/core/game/tree';
import { formatsFor } from '@/core/notation/formats';
import { linesOfGames, type PlayedGame, type Worth } from '@/core/preparation/from-games';
import { commonPlies, linesOf } from '@/core/preparation/lines';
import {
  preparationOf,
  sizeOf,
  type Preparation,
  type Sheet,
} from '@/core/preparation/preparation';
import { rulesetOf } from '@/core/rulesets';
import { changeGames } from './change-games';
import { presentGames } from './chosen-games';
import { database, type Database, type Transaction } from './database';
import { announce } from './events';
import { selectGames, type GameRow } from './game-rows';
import { addToGame, recordOf } from './games';
import { copyOf, insertGames } from './insert-games';
import { listIds } from './library';
import type { Owner, OwnerRef } from './owner';
import { prepareGame } from './prepared-game';
import { Recent } from './recent';
import { asks, games } from './schema';

/** Sheets of a side that one owner may have. */
const MOST_SHEETS = 100;
/** Own games from which lines are taken, the latest. */
const MOST_GAMES = 2000;

/** Whose preparation, of which game, for which side. */
export interface Which {
  owner: OwnerRef;
  kind: GameKind;
  side: Side;
}

const ofSide = ({ owner, kind, side }: Which) =>
  and(presentGames(owner), eq(games.kind, kind), eq(games.preparedFor, side))!;

const loaded = globalThis as { bektraPreparations?: Recent<string, Loaded> };
/** Nodes of preparations that one process keeps. */
const MOST_NODES = 500_000;

export interface Loaded {
  preparation: Preparation;
  sheets: readonly Sheet[];
}

/** A preparation as it is now. */
export async function loadPreparation(which: Which): Promise<Loaded> {
  const { owner, kind, side } = which;
  const stored = await database()
    .select({ id: games.id, version: games.version })
    .from(games)
    .where(ofSide(which))
    .orderBy(asc(games.id));
  const name = `${owner.id} ${kind} ${side} ${stored.map(({ id, version }) => `${id}:${version}`).join(' ')}`;
  const kept = (loaded.bektraPreparations ??= new Recent(MOST_NODES));
  const known = kept.get(name);
  if (known) return known;
  const sheets = await sheetsOf(which);
  const found = { preparation: preparationOf(rulesetOf(kind), side, sheets), sheets };
  kept.set(name, found, found.preparation.positions.size + 1);
  return found;
}

async function sheetsOf(which: Which, db: Database | Transaction = database()): Promise<Sheet[]> {
  const rows = await selectGames(db).where(ofSide(which)).orderBy(asc(games.id));
  return rows.map((row) => ({ id: row.id, tree: recordOf(row).tree }));
}

/** The sheets of a preparation, the first made first. */
export async function listSheets(which: Which): Promise<SheetSummary[]> {
  const { sheets } = await loadPreparation(which);
  const ids = sheets.map(({ id }) => id);
  if (ids.length === 0) return [];
  const [named, swept] = await Promise.all([
    database()
      .select({ id: games.id, name: games.event })
      .from(games)
      .where(and(presentGames(which.owner), inArray(games.id, ids))),
    database()
      .selectDistinctOn([asks.gameId], { id: asks.gameId, state: asks.state })
      .from(asks)
      .where(and(inArray(asks.gameId, ids), eq(asks.plan, 'sweep')))
      .orderBy(asks.gameId, desc(asks.id)),
  ]);
  return sheets.map(({ id, tree }) => ({
    id,
    name: named.find((one) => one.id === id)?.name ?? null,
    ...sizeOf(tree),
    format: formatsFor(which.kind)[0]!,
    swept: swept.find((one) => one.id === id)?.state ?? null,
  }));
}

export interface Added {
  /** The sheet. */
  id: number;
  /** Half moves that were not there before. */
  added: number;
}

/** Lines that can't be put into a preparation. */
export type NotAdded = 'missing' | 'unfit' | 'full' | 'tooMany';

/** Puts lines into a preparation: see the contract. */
export async function prepareLines(
  which: Which,
  tree: GameTree,
  { sheet, name }: { sheet?: number | undefined; name?: string | undefined } = {},
): Promise<Added | NotAdded> {
  const { owner } = which;
  const lines = linesOf(tree);
  const done = await database().transaction(async (tx) => {
    await tx.execute(
      sql`select pg_advisory_xact_lock(hashtextextended(${`preparation of ${owner.id}`}, 0))`,
    );
    const sheets = await sheetsOf(which, tx);
    const fitting = sheets.filter(
      ({ id, tree: { start } }) => start === lines.start && (sheet === undefined || sheet === id),
    );
    if (sheet !== undefined && fitting.length === 0)
      return sheets.some(({ id }) => id === sheet) ? 'unfit' : 'missing';
    const [best] = fitting
      .map((one) => ({ ...one, common: commonPlies(lines, one.tree) }))
      .sort((a, b) => b.common - a.common);
    if (!best || (name !== undefined && sheet === undefined)) {
      if (sheets.length >= MOST_SHEETS) return 'tooMany';
      if (treeLimit(lines)) return 'full';
      return { id: await insertSheet(tx, which, lines, name), added: lines.nodes.size - 1 };
    }
    let steps: readonly Step[] = [];
    const isChanged = await addToGame(tx, owner, best.id, ({ tree: known }) => {
      steps = insertTree(known, ROOT, lines, () => freshId(known, Math.random)).steps;
      return steps;
    });
    if (steps.length > 0 && !isChanged) return 'full';
    const added = steps.flatMap((step) => (step.type === 'insert' ? step.branch : [])).length;
    return { id: best.id, added };
  });
  if (typeof done !== 'string')
    await announce({ owner: owner.id, type: 'game', id: done.id, gameId: done.id });
  return done;
}

/** Keeps lines as a sheet of their own. */
async function insertSheet(
  tx: Transaction,
  { owner, side }: Which,
  lines: GameTree,
  name: string | undefined,
): Promise<number> {
  const tags = name === undefined ? [] : [{ name: 'Event', value: name }];
  const prepared = prepareGame({ tree: lines, tags, result: '*', end: null });
  // no game that comes in is ever taken for it
  const fingerprint = copyOf(prepared.fingerprint);
  const [stored] = await insertGames(tx, owner, [{ ...prepared, fingerprint }], 'preparation');
  await tx.update(games).set({ preparedFor: side }).where(eq(games.id, stored!.id));
  return stored!.id;
}

/** Games that are read at a time: what is made of some lets other requests by before the next. */
const READ = 50;

/** The latest games that an owner played as a side, with their moves. */
export async function* ownGames(
  { owner, kind, side }: Which & { owner: Owner },
  most: number,
): AsyncGenerator<GameRow> {
  const ids = await listIds(owner, { kind, side: wordOfSide(side) }, { count: most });
  for (let from = 0; from < ids.length; from += READ) {
    const some = ids.slice(from, from + READ);
    const rows = await selectGames().where(and(presentGames(owner), inArray(games.id, some)));
    yield* some.flatMap((id) => rows.find((row) => row.id === id) ?? []);
  }
}

/** Puts lines of an owner's games into their preparation; `none` where no line is worth it. */
export async function prepareFromGames(
  which: Which & { owner: Owner },
  worth: Worth,
): Promise<Added | NotAdded | 'none'> {
  const ruleset = rulesetOf(which.kind);
  const played: PlayedGame[] = [];
  for await (const row of ownGames(which, MOST_GAMES)) {
    if (row.start !== ruleset.startText) continue;
    const moves = mainLine(recordOf(row).tree).map(({ move }) => move);
    played.push({ moves, result: row.result });
  }
  const lines = linesOfGames(ruleset, which.side, played, worth);
  return lines.nodes.size === 1 ? 'none' : prepareLines(which, lines);
}

/** Takes a sheet away, or brings it back; false where there is none. */
export async function keepSheet(owner: Owner, id: number, isKept: boolean): Promise<boolean> {
  const which = isKept ? { ids: [id], deleted: 'yes' as const } : { ids: [id] };
  const count = await changeGames(
    owner,
    { ...which, prepared: true },
    { do: isKept ? 'restore' : 'delete' },
  );
  return count === 1;
}
