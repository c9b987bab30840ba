import { existsSync, readFileSync } from 'node:fs';
import { isAbsolute } from 'node:path';
import * as z from 'zod';
import { GAME_KINDS, type GameKind } from '@/core/game/ruleset';
import type { Owner } from './owner';
import { settings } from './settings';

const lineText = z
  .string()
  .max(500)
  .regex(/^[^\r\n\0]*$/, 'one line of text');

const engineSchema = z.strictObject({
  /** As people see it. */
  name: lineText.min(1).max(60),
  kind: z.enum(GAME_KINDS),
  /** The program, by its full path, and its arguments. */
  command: z
    .tuple([lineText.refine(isAbsolute, 'a full path')], lineText)
    .transform(([file, ...args]): [string, ...string[]] => [file, ...args]),
  options: z.record(lineText, lineText).default({}),
  /** Names of the players who may use it. */
  users: z.union([z.literal('everyone'), z.array(lineText)]),
  /** How many searches may run at once, on all workers together. */
  atOnce: z.number().int().min(1).max(64).default(1),
});

const fileSchema = z
  .strictObject({ engines: z.array(engineSchema).max(50) })
  .refine(({ engines }) => new Set(engines.map(({ name }) => name)).size === engines.length, {
    message: 'two engines have the same name',
  });

export type ConfiguredEngine = z.infer<typeof engineSchema>;

/**
 * The external engines that the server's file names; empty without the file.
 * @throws Error that names the file and what is wrong with it
 */
export function readEnginesFile(path = settings().enginesFile): ConfiguredEngine[] {
  if (!existsSync(path)) return [];
  let json: unknown;
  try {
    json = JSON.parse(readFileSync(path, 'utf8'));
  } catch (error) {
    throw new Error(`${path}: ${(error as Error).message}`, { cause: error });
  }
  const parsed = fileSchema.safeParse(json);
  if (parsed.success) return parsed.data.engines;
  const [issue] = parsed.error.issues;
  throw new Error(`${path}: ${issue!.path.join('.')}: ${issue!.message}`);
}

/** Those that a player may use for a game. */
export const enginesFor = (owner: Owner, kind: GameKind): ConfiguredEngine[] =>
  readEnginesFile().filter(
    (engine) =>
      engine.kind === kind && (engine.users === 'everyone' || engine.users.includes(owner.name)),
  );
