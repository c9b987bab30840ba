import { Readable } from 'node:stream';
import { and, eq, inArray, lt, sql } from 'drizzle-orm';
import { ZipFile } from 'yazl';
import type { ImportStatus } from '@/contract/imports';
import type { Problem } from '@/core/game/problem';
import { isPlainText } from '@/core/game/text';
import { extensionOf, FORMATS, separatorOf, type Format } from '@/core/notation/formats';
import { database, type Transaction } from './database';
import type { OwnerRef } from './owner';
import { importFailures, imports } from './schema';

/** A game of a file that did not go in. */
export interface GameFailure {
  problem: Problem;
  /** The game as it stands in the file, and what it is written in; null where it is too long, or no game. */
  text: string | null;
  format: Format | null;
}

/** Failures that are kept of one import: their number, and characters of one's text and of all texts. */
export const FAILURES_KEPT = { most: 10_000, text: 256 * 1024, texts: 32 * 1024 * 1024 };

/** Keeps what did not go in, as far as there is room. */
export async function keepFailures(
  tx: Transaction,
  importId: number,
  failures: readonly GameFailure[],
): Promise<void> {
  if (failures.length === 0) return;
  const [kept] = await tx
    .select({
      count: sql<number>`count(*)::integer`,
      texts: sql<number>`coalesce(sum(length(text)), 0)::integer`,
    })
    .from(importFailures)
    .where(eq(importFailures.importId, importId));
  let { texts } = kept!;
  const hasRoom = (text: string): boolean =>
    text.length <= FAILURES_KEPT.text && texts + text.length <= FAILURES_KEPT.texts;
  const room = Math.max(0, FAILURES_KEPT.most - kept!.count);
  const rows = failures.slice(0, room).map(({ problem, text, format }) => {
    const fits = text !== null && isPlainText(text) && hasRoom(text);
    if (fits) texts += text.length;
    return { importId, problem, format, text: fits ? text : null };
  });
  if (rows.length > 0) await tx.insert(importFailures).values(rows);
}

/** Lets go of what did not go in a month ago. */
export async function forgetFailures(): Promise<void> {
  await database()
    .delete(importFailures)
    .where(
      inArray(
        importFailures.importId,
        database()
          .select({ id: imports.id })
          .from(imports)
          .where(lt(imports.finishedAt, sql`now() - interval '30 days'`)),
      ),
    );
}

const failuresOf = (owner: OwnerRef, id: number): Promise<GameFailure[]> =>
  database()
    .select({
      problem: importFailures.problem,
      text: importFailures.text,
      format: importFailures.format,
    })
    .from(importFailures)
    .innerJoin(imports, eq(imports.id, importFailures.importId))
    .where(and(eq(imports.ownerId, owner.id), eq(imports.id, id)))
    .orderBy(importFailures.id);

/** What is wrong with each game that did not go in: a line each, with its place in the file. @param say a problem in words */
export async function reportOf(
  owner: OwnerRef,
  { id, name, failed }: ImportStatus,
  say: (problem: Problem) => string,
): Promise<string> {
  const failures = await failuresOf(owner, id);
  const lines = failures.map(({ problem }) => {
    const { line, column, game = 1 } = problem.place;
    return `${name}:${line}:${column}: ${game}: ${say(problem).replaceAll(/\s+/g, ' ')}`;
  });
  const left = failed - failures.length;
  return [...lines, ...(left > 0 ? [`… ${left}`] : []), ''].join('\n');
}

/** The games that did not go in as they stand in the file; those of several formats as a ZIP file. Null where none is kept. */
export async function failedFile(
  owner: OwnerRef,
  id: number,
): Promise<{ format: Format; text: string } | { format: 'zip'; bytes: Readable } | null> {
  const failures = await failuresOf(owner, id);
  const files = FORMATS.flatMap((format) => {
    const texts = failures.flatMap((failure) =>
      failure.format === format && failure.text !== null ? [failure.text.trim()] : [],
    );
    return texts.length > 0 ? [{ format, text: joined(texts, format) }] : [];
  });
  if (files.length < 2) return files[0] ?? null;
  const zip = new ZipFile();
  for (const { format, text } of files)
    zip.addBuffer(Buffer.from(text), `not-taken-in.${extensionOf(format)}`);
  zip.end();
  return { format: 'zip', bytes: Readable.from(zip.outputStream) };
}

const joined = (texts: readonly string[], format: Format): string =>
  `${texts.join(`\n${separatorOf(format) || '\n'}`)}\n`;
