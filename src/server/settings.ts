import { availableParallelism } from 'node:os';
import { existsSync, readFileSync } from 'node:fs';
import { isAbsolute, join } from 'node:path';
import { parseEnv } from 'node:util';
import * as z from 'zod';
import { DEFAULT_SWEEP, type SweepSettings } from '@/core/review/sweep-settings';

const settingsSchema = z.object({
  BEKTRA_HOST: z.string().default('127.0.0.1'),
  BEKTRA_HOSTS: z
    .string()
    .regex(/^[a-z0-9.:[\]-]*(?:\s*,\s*[a-z0-9.:[\]-]+)*$/i, 'names with commas between them')
    .default(''),
  BEKTRA_PORT: z.coerce.number().int().min(0).max(65535).default(3210),
  BEKTRA_DATA: z.string().min(1).default('.data'),
  BEKTRA_DATABASE_URL: z.string().url().optional(),
  BEKTRA_WEB_PROCESSES: z.coerce.number().int().min(0).max(64).default(0),
  BEKTRA_ENGINES: z.coerce.number().int().min(0).max(256).default(0),
  BEKTRA_WORKER_NICE: z.coerce.number().int().min(0).max(19).default(10),
  BEKTRA_ENDING_PIECES: z.coerce
    .number()
    .int()
    .refine((pieces) => pieces === 0 || pieces === 3 || pieces === 4, { error: '0, 3 or 4' })
    .default(4),
  BEKTRA_TABLE_MB: z.coerce.number().int().min(1).max(1024).default(16),
  BEKTRA_SWEEP_NODES: z.coerce
    .number()
    .int()
    .min(100)
    .max(1_000_000_000)
    .default(DEFAULT_SWEEP.average.nodes),
  BEKTRA_DOUBT_NODES: z.coerce.number().int().min(100).max(1_000_000_000).default(40_000_000),
  BEKTRA_ENGINES_FILE: z.string().min(1).default('engines.json'),
  BEKTRA_IMPORT_MB: z.coerce.number().int().min(1).max(2000).default(1024),
  BEKTRA_UNPACKED_MB: z.coerce.number().int().min(1).max(100_000).default(4096),
  BEKTRA_WATCH: z.string().min(1).optional(),
  BEKTRA_SIGN_UP: z.enum(['on', 'off']).default('on'),
  BEKTRA_DEMO: z.enum(['on', 'unswept', 'off']).default('on'),
  BEKTRA_HTTPS: z.enum(['on', 'off']).default('off'),
  BEKTRA_SECRET: z.string().min(32).optional(),
  BEKTRA_LOG: z.enum(['trace', 'debug', 'info', 'warn', 'error', 'silent']).default('info'),
});

/** Of the web part, where nobody has said how many: each takes 200 MB and more. */
const MOST_WEB = 4;

const LOOPBACK = ['127.0.0.1', 'localhost', '[::1]'];

export interface Settings {
  /** The checkout: where settings.env, dist and drizzle are. */
  root: string;
  host: string;
  /** Names in lower case under which the app may be asked for. */
  hosts: string[];
  port: number;
  /** Absolute path of the data folder. */
  data: string;
  databaseUrl: string | null;
  /** Processes that answer requests. */
  webProcesses: number;
  engines: number;
  /** How much workers give way to other programs of the machine: 0, as any other, to 19. */
  workerNice: number;
  tableMegabytes: number;
  /** Up to so many pieces, kings among them, exact endings are worked out; 0: none. */
  endingPieces: number;
  sweep: SweepSettings;
  /** How long a position that is doubted is looked at. */
  doubtNodes: number;
  /** Absolute path of the file that names external engines; it need not be there. */
  enginesFile: string;
  /** Bytes of a file that is sent, and of what comes out of it where it is packed. */
  importBytes: number;
  unpackedBytes: number;
  /** Absolute path of a folder from which files are taken in; null: none. */
  watch: string | null;
  /** Whether people may make accounts for themselves. */
  signUp: boolean;
  /** Whether the account with the made-up games is open to everybody. */
  demo: boolean;
  /** Whether its games are gone over as soon as they are there. */
  sweepsDemo: boolean;
  /** Whether people reach the app by HTTPS alone: cookies are then never sent without. */
  https: boolean;
  /** What sessions are signed with; null: as the data folder has it. */
  secret: string | null;
  logLevel: string;
}

/**
 * Reads settings.env and the environment.
 * @throws Error that names the setting and what is wrong with it
 */
export function readSettings(root = process.env.BEKTRA_ROOT ?? process.cwd()): Settings {
  const file = join(root, 'settings.env');
  const fromFile = existsSync(file) ? parseEnv(readFileSync(file, 'utf8')) : {};
  const given = Object.fromEntries(
    Object.entries({ ...fromFile, ...process.env }).filter(([, value]) => value !== ''),
  );
  const parsed = settingsSchema.safeParse(given);
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    throw new Error(`settings.env: ${issue!.path.join('.')}: ${issue!.message}`);
  }
  const values = parsed.data;
  const placed = (path: string): string => (isAbsolute(path) ? path : join(root, path));
  return {
    root,
    host: values.BEKTRA_HOST,
    hosts: [...LOOPBACK, values.BEKTRA_HOST, ...values.BEKTRA_HOSTS.split(',')]
      .map((name) => name.trim().toLowerCase())
      .filter(Boolean),
    port: values.BEKTRA_PORT,
    data: placed(values.BEKTRA_DATA),
    databaseUrl: values.BEKTRA_DATABASE_URL ?? null,
    webProcesses: values.BEKTRA_WEB_PROCESSES || Math.min(MOST_WEB, availableParallelism()),
    engines: values.BEKTRA_ENGINES || availableParallelism(),
    workerNice: values.BEKTRA_WORKER_NICE,
    tableMegabytes: values.BEKTRA_TABLE_MB,
    endingPieces: values.BEKTRA_ENDING_PIECES,
    sweep: { average: { nodes: values.BEKTRA_SWEEP_NODES } },
    doubtNodes: values.BEKTRA_DOUBT_NODES,
    enginesFile: placed(values.BEKTRA_ENGINES_FILE),
    importBytes: values.BEKTRA_IMPORT_MB * 1024 * 1024,
    unpackedBytes: values.BEKTRA_UNPACKED_MB * 1024 * 1024,
    watch: values.BEKTRA_WATCH === undefined ? null : placed(values.BEKTRA_WATCH),
    signUp: values.BEKTRA_SIGN_UP === 'on',
    demo: values.BEKTRA_DEMO !== 'off',
    sweepsDemo: values.BEKTRA_DEMO === 'on',
    https: values.BEKTRA_HTTPS === 'on',
    secret: values.BEKTRA_SECRET ?? null,
    logLevel: values.BEKTRA_LOG,
  };
}

let cached: Settings | null = null;

/** The settings of this process, read once. */
export const settings = (): Settings => (cached ??= readSettings());
