import * as z from 'zod';
import type { Problem } from '@/core/game/problem';
import { readSettingsText } from '@/core/review/sweep-settings';
import { contract } from './contract';
import { label } from './game-filter';
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
  /** Of those, the ones from which something was added to the game that was there. */
  merged: z.number(),
  failed: z.number(),
  /** The first problems, with their places. */
  problems: z.array(problem),
  /** What readers decided about games that went in, with their places. */
  notes: z.array(problem),
  /** The first games that went in or were there already. */
  gameIds: z.array(id),
  /** Bytes of the file behind which all is stored, and milliseconds since reading began, until it was over. */
  readBytes: z.number(),
  elapsed: z.number().nullable(),
});
export type ImportStatus = z.infer<typeof importStatusSchema>;

/** What a file is called, and what becomes of its games. */
export const importQuerySchema = z.object({
  name: z.string().max(200),
  copies: z.literal('1').optional(),
  /** How they are gone over, as `settingsText` writes it. */
  sweep: z
    .string()
    .transform((text, context) => {
      try {
        return readSettingsText(text);
      } catch {
        context.addIssue({ code: 'custom', message: 'not how games are gone over' });
        return z.NEVER;
      }
    })
    .optional(),
  collection: z.coerce.number().int().positive().optional(),
  player: z.coerce.number().int().positive().optional(),
  base: z.coerce.number().int().positive().optional(),
  labels: z.array(label).max(20),
});

export const findImport = contract('GET', '/api/imports/[id]', { answer: importStatusSchema });
export const stopImport = contract('DELETE', '/api/imports/[id]');
