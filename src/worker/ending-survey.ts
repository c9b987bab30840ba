import { readdir } from 'node:fs/promises';
import { and, eq, gte, inArray, isNull, sql } from 'drizzle-orm';
import { chess } from '@/core/chess/ruleset';
import type { ChessPosition } from '@/core/chess/position';
import { menOn } from '@/core/endings/exact';
import { endingsReached, MOST_REACHED } from '@/core/endings/reached';
import type { Move } from '@/core/game/move';
import { mainLine, positionsAlong, ROOT } from '@/core/game/tree';
import type { GameRecord } from '@/core/game/record';
import { findingsAlong, mainLineCodes } from '@/core/review/findings';
import { matesReached } from '@/core/review/reached-mates';
import { rulesetOf } from '@/core/rulesets';
import { playedGames } from '@/server/chosen-games';
import { database } from '@/server/database';
import { endingsFolder, resultOf } from '@/server/endings';
import { gameBatches, type GameRow } from '@/server/game-rows';
import { recordOf } from '@/server/games';
import type { OwnerRef } from '@/server/owner';
import { endingSurveys, games, reachedEndings } from '@/server/schema';
import { completeSweep } from '@/server/sweeps';
import { alone } from './alone';

type Reached = Omit<typeof reachedEndings.$inferInsert, 'gameId'>;

/** For side 0: 1 won, 0 drawn, -1 lost; null where nobody knows. */
function worthOfPosition(position: ChessPosition): number | null {
  const result = resultOf(position);
  if (result === null) return null;
  const own = { win: 1, draw: 0, loss: -1 }[result];
  return position.side === 0 || own === 0 ? own : -own;
}

/** The endings of few men that a chess game came to. */
function endingsOf({ tree }: GameRecord): Reached[] {
  const line = mainLine(tree);
  if (!endsWithFew(tree.start, line)) return [];
  const positions = positionsAlong(chess, tree.start, line);
  const moves = line.map(({ move }) => move);
  return endingsReached(positions, moves).map((reached) => {
    const position = positions[reached.ply]!;
    return {
      ...reached,
      node: line[reached.ply - 1]?.id ?? ROOT,
      position: chess.write(position),
      worth: worthOfPosition(position),
    };
  });
}

/** Whether few enough men are left at the end of a game: of most there are more, and what it had before needs no look. */
function endsWithFew(start: string, line: readonly { move: Move }[]): boolean {
  const position = chess.start(start);
  for (const { move } of line) position.make(move);
  return menOn(position) <= MOST_REACHED;
}

/** The mates that were there in a shogi game, as its last complete sweep found them. */
async function matesOf(id: number, record: GameRecord): Promise<Reached[]> {
  const sweep = await completeSweep(id);
  if (!sweep) return [];
  const ruleset = rulesetOf(record.tree.kind);
  const line = mainLine(record.tree);
  const positions = positionsAlong(ruleset, record.tree.start, line);
  const present = findingsAlong(sweep.findings, mainLineCodes(record));
  return matesReached(present).map(({ ply, plies, side, isLetGo }) => ({
    ply,
    node: line[ply - 1]?.id ?? ROOT,
    name: String(plies),
    position: ruleset.write(positions[ply]!),
    worth: side === 0 ? 1 : -1,
    isLetGo,
  }));
}

/** Without figures of a complete sweep there are no mates to be read from one. */
async function reachedIn(row: GameRow): Promise<Reached[]> {
  if (row.kind === 'chess') return endingsOf(recordOf(row));
  return row.firstFigures ? matesOf(row.id, recordOf(row)) : [];
}

const turn = (): Promise<void> => new Promise((next) => setImmediate(next));

/** Finds what some games came to, and keeps it in place of what was found before. */
async function survey(rows: readonly GameRow[]): Promise<void> {
  const found: (typeof reachedEndings.$inferInsert)[] = [];
  for (const row of rows) {
    const reached = await reachedIn(row);
    found.push(...reached.map((one) => ({ ...one, gameId: row.id })));
    // others get their turn between one game and the next
    await turn();
  }
  const ids = rows.map(({ id }) => id);
  await database().transaction(async (tx) => {
    await tx.delete(reachedEndings).where(inArray(reachedEndings.gameId, ids));
    // some may have been deleted for good meanwhile
    const there = await tx
      .select({ id: games.id })
      .from(games)
      .where(inArray(games.id, ids))
      .for('key share');
    const known = new Set(there.map(({ id }) => id));
    const kept = found.filter(({ gameId }) => known.has(gameId));
    if (kept.length > 0) await tx.insert(reachedEndings).values(kept);
  });
}

/** Endings that are looked up anew at a time. */
const PART = 500;

/** Looks up again what nobody knew of an owner's endings: tables and proofs have come. */
async function lookAgain(owner: OwnerRef): Promise<void> {
  for (let last: { gameId: number; ply: number } | null = { gameId: 0, ply: 0 }; last;) {
    const rows: { gameId: number; ply: number; position: string }[] = await database()
      .select({
        gameId: reachedEndings.gameId,
        ply: reachedEndings.ply,
        position: reachedEndings.position,
      })
      .from(reachedEndings)
      .innerJoin(games, eq(games.id, reachedEndings.gameId))
      .where(
        and(
          playedGames(owner),
          eq(games.kind, 'chess'),
          isNull(reachedEndings.worth),
          sql`(${reachedEndings.gameId}, ${reachedEndings.ply}) > (${last.gameId}, ${last.ply})`,
        ),
      )
      .orderBy(reachedEndings.gameId, reachedEndings.ply)
      .limit(PART);
    for (const { gameId, ply, position } of rows) {
      const worth = worthOfPosition(chess.start(position));
      if (worth === null) continue;
      await database()
        .update(reachedEndings)
        .set({ worth })
        .where(and(eq(reachedEndings.gameId, gameId), eq(reachedEndings.ply, ply)));
    }
    last = rows.at(-1) ?? null;
  }
}

/**
 * Looks through the games that have changed since they were last looked through, as the one of several workers that comes first; while an
 * owner's games are being taken in, they wait.
 */
export const surveyEndings = (): Promise<void> =>
  alone('survey of endings', async () => {
    const files = await readdir(endingsFolder()).then(
      (names) => names.length,
      () => 0,
    );
    const { rows } = await database().execute<{ id: string; seen: string; files: number | null }>(
      sql`select owners.id, coalesce(survey.seen, 0) as seen, survey.files
        from owners left join ending_surveys survey on survey.owner_id = owners.id
        where owners.closed_at is null
          and not exists (select from imports where imports.owner_id = owners.id and imports.state in ('queued', 'running'))
          and (survey.files is distinct from ${files}
            or exists (select from games where games.owner_id = owners.id and games.changed >= coalesce(survey.seen, 0)))`,
    );
    for (const { id, seen, files: before } of rows) {
      const owner = { id };
      const now = { seen: await transactionsDone(), files };
      for await (const some of gameBatches(
        and(playedGames(owner), gte(games.changed, Number(seen)))!,
      ))
        await survey(some);
      if (before !== files) await lookAgain(owner);
      await database()
        .insert(endingSurveys)
        .values({ ownerId: id, ...now })
        .onConflictDoUpdate({ target: endingSurveys.ownerId, set: now });
    }
  });

/** Transactions below are over. */
async function transactionsDone(): Promise<number> {
  const { rows } = await database().execute<{ seen: string }>(
    sql`select txid_snapshot_xmin(txid_current_snapshot()) as seen`,
  );
  return Number(rows[0]!.seen);
}
