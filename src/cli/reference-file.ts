import { appendFile, mkdir, readFile, truncate } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import * as z from 'zod';
import type { GameKind } from '@/core/game/ruleset';
import { scoreSchema } from '@/core/game/serial';

const referenceGame = z.object({
  /** Ratings that the players were made after, side 0 first. */
  ratings: z.tuple([z.number(), z.number()]),
  /** UCI or USI. */
  moves: z.array(z.string()),
  /** Of the moves, how many were played without thought: nothing is asked about them. */
  opening: z.number().int(),
});

const reference = z.object({
  /** Place of the game in its file, and of the position in the game; the start is 0. */
  game: z.number().int(),
  ply: z.number().int(),
  /** The version of the engine that searched. */
  engine: z.string(),
  best: z.object({ move: z.string(), score: scoreSchema, depth: z.number().int() }),
  /** Null where the best move was played. */
  played: z.object({ score: scoreSchema, depth: z.number().int() }).nullable(),
});

/** A game that a made-up pair of players has played, to measure verdicts by. */
export type ReferenceGame = z.infer<typeof referenceGame>;
/** What long searches say of one position of it, from the view of side 0. */
export type Reference = z.infer<typeof reference>;

async function readLines<T>(file: string, schema: z.ZodType<T>): Promise<T[]> {
  const bytes = await readFile(file).catch(() => Buffer.alloc(0));
  const whole = bytes.subarray(0, bytes.lastIndexOf('\n') + 1);
  // a line that was being written when a run was killed has no end: it is written anew
  if (whole.length < bytes.length) await truncate(file, whole.length);
  return whole
    .toString()
    .split('\n')
    .filter((line) => line !== '')
    .map((line) => schema.parse(JSON.parse(line)));
}

const keyOf = ({ game, ply }: Pick<Reference, 'game' | 'ply'>): string => `${game} ${ply}`;

/** The reference games of a kind in a folder, and what is known of them: one JSON object a line. */
export class ReferenceFile {
  private readonly latest = new Map<string, Reference>();

  private constructor(
    private readonly gamesPath: string,
    private readonly valuesPath: string,
    readonly games: ReferenceGame[],
    lines: readonly Reference[],
  ) {
    for (const line of lines) this.latest.set(keyOf(line), line);
  }

  /** What is known of each position: what was found last. */
  get values(): Reference[] {
    return [...this.latest.values()];
  }

  /** Whether an engine has looked at a position. */
  isKnown(game: number, ply: number, engine: string): boolean {
    return this.latest.get(keyOf({ game, ply }))?.engine === engine;
  }

  static async open(folder: string, kind: GameKind): Promise<ReferenceFile> {
    const [games, values] = [
      join(folder, `${kind}-games.jsonl`),
      join(folder, `${kind}-values.jsonl`),
    ];
    await mkdir(dirname(games), { recursive: true });
    return new ReferenceFile(
      games,
      values,
      await readLines(games, referenceGame),
      await readLines(values, reference),
    );
  }

  async addGame(game: ReferenceGame): Promise<void> {
    this.games.push(game);
    await appendFile(this.gamesPath, `${JSON.stringify(game)}\n`);
  }

  async addValue(value: Reference): Promise<void> {
    this.latest.set(keyOf(value), value);
    await appendFile(this.valuesPath, `${JSON.stringify(value)}\n`);
  }
}
