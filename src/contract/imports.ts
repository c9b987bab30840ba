import * as z from 'zod';
import type { Problem } from '@/core/game/problem';
import { contract } from './contract';
import { id } from './shapes';

const problem: z.ZodType<Problem> = z.object({
  code: z.string(),
  params: z.record(z.string(), z.union([z.string(), z.number()])),
  place: z.object({ line: z.number(), column: z.number(), game: z.number().optional() }),
}) as z.ZodType<Problem>;

export const IMPORT_STATES = [
  'uploading',
  'queued',
  'running',
  'done',
  'cancelled',
  'failed',
] as const;

export const importStatusSchema = z.object({
  id,
  name: z.string(),
  size: z.number(),
  state: z.enum(IMPORT_STATES),
  /** Games looked at, and what became of them. */
  read: z.number(),
  kept: z.number(),
  duplicates: z.number(),
  failed: z.number(),
  /** The first problems, with their places. */
  problems: z.array(problem),
  /** What readers decided about games that went in, with their places. */
  notes: z.array(problem),
  /** The first games that went in or were there already. */
  gameIds: z.array(id),
});
export type ImportStatus = z.infer<typeof importStatusSchema>;

export const findImport = contract('GET', '/api/imports/[id]', { answer: importStatusSchema });
export const stopImport = contract('DELETE', '/api/imports/[id]');
