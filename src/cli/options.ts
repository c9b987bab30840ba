import { parseArgs } from 'node:util';
import { usageError } from './exit';
import type { CheckedOptions } from './option-schema';

const FLAGS = ['json', 'engine', 'replace', 'resume', 'prove', 'fresh', 'quiet', 'help'] as const;
const WORDS = ['from', 'to', 'out', 'account'] as const;
/** Those that say how much or how many. */
const CHECKED = [
  'preset',
  'depth',
  'nodes',
  'time',
  'lines',
  'games',
  'concurrency',
  'jobs',
  'pieces',
  'plies',
  'seed',
  'epochs',
  'rate',
  'decay',
  'trust',
  'sprt',
] as const satisfies readonly (keyof CheckedOptions)[];

type PlainOptions = Partial<Record<(typeof FLAGS)[number], boolean>> &
  Partial<Record<(typeof WORDS)[number], string>>;

export type Options = PlainOptions & CheckedOptions;

/** What stands behind a command: words, and options as what they stand for. @throws CommandError */
export async function readArguments(
  args: readonly string[],
): Promise<{ positionals: string[]; options: Options }> {
  const { values, positionals } = parsedOrRefused(args);
  const given = (names: readonly (keyof typeof values)[]) =>
    Object.fromEntries(
      names.filter((name) => values[name] !== undefined).map((name) => [name, values[name]]),
    );
  const plain = given([...FLAGS, ...WORDS]);
  const rest = given(CHECKED);
  // most commands have none of them, and start sooner without what checks them
  const checked =
    Object.keys(rest).length === 0 ? {} : (await import('./option-schema')).checkOptions(rest);
  return { positionals, options: { ...plain, ...checked } };
}

function parsedOrRefused(args: readonly string[]) {
  const names = [
    ...FLAGS.map((name) => [name, { type: 'boolean' as const }] as const),
    ...[...WORDS, ...CHECKED].map((name) => [name, { type: 'string' as const }] as const),
  ];
  try {
    return parseArgs({
      args: [...args],
      allowPositionals: true,
      options: Object.fromEntries(names),
    }) as { values: PlainOptions & Record<string, unknown>; positionals: string[] };
  } catch (error) {
    throw usageError((error as Error).message);
  }
}
