import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import * as z from 'zod';

/** How a part of the tests went. */
export interface Tally {
  passed: number;
  failed: number;
  /** What failed, by name and with what was said: told again at the end, where a long run's output is looked at. */
  failures: string[];
}

const vitestReport = z.object({
  numPassedTests: z.number(),
  numFailedTests: z.number(),
  testResults: z.array(
    z.object({
      name: z.string(),
      status: z.string(),
      message: z.string(),
      assertionResults: z.array(
        z.object({
          fullName: z.string(),
          status: z.string(),
          failureMessages: z.array(z.string()),
        }),
      ),
    }),
  ),
});

/** The failures in a unit test report: tests, and files that could not be run. */
const unitFailures = ({ testResults }: z.infer<typeof vitestReport>): string[] =>
  testResults.flatMap(({ name, status, message, assertionResults }) => {
    const failed = assertionResults.filter((test) => test.status === 'failed');
    if (failed.length === 0 && status === 'failed') return [`${name}\n${message}`];
    return failed.map((test) => [`${name} › ${test.fullName}`, ...test.failureMessages].join('\n'));
  });

/** Reads the report of the unit tests; throws a ZodError for anything else. */
export function unitTally(json: unknown): Tally {
  const report = vitestReport.parse(json);
  return {
    passed: report.numPassedTests,
    failed: report.numFailedTests,
    failures: unitFailures(report),
  };
}

interface Suite {
  readonly title: string;
  readonly specs: readonly {
    readonly title: string;
    readonly ok: boolean;
    readonly tests: readonly {
      readonly results: readonly { readonly errors: readonly { readonly message: string }[] }[];
    }[];
  }[];
  readonly suites?: readonly Suite[] | undefined;
}

const errorSchema = z.object({ message: z.string() });
const resultSchema = z.object({ errors: z.array(errorSchema) });
const suiteSchema: z.ZodType<Suite> = z.object({
  title: z.string(),
  specs: z.array(
    z.object({
      title: z.string(),
      ok: z.boolean(),
      tests: z.array(z.object({ results: z.array(resultSchema) })),
    }),
  ),
  suites: z.array(z.lazy(() => suiteSchema)).optional(),
});

const playwrightReport = z.object({
  stats: z.object({ expected: z.number(), unexpected: z.number(), flaky: z.number() }),
  suites: z.array(suiteSchema),
});

/** The failures in a browser test report. */
const browserFailures = ({ title, specs, suites }: Suite): string[] => [
  ...specs
    .filter(({ ok }) => !ok)
    .map((spec) => {
      const errors = spec.tests.flatMap(({ results }) => results.flatMap((each) => each.errors));
      return [`${title} › ${spec.title}`, ...errors.map(({ message }) => message)].join('\n');
    }),
  ...(suites ?? []).flatMap(browserFailures),
];

/** Reads the report of browser tests; throws a ZodError for anything else. One that passed only when tried again failed. */
export function browserTally(json: unknown): Tally {
  const { stats, suites } = playwrightReport.parse(json);
  return {
    passed: stats.expected,
    failed: stats.unexpected + stats.flaky,
    failures: suites.flatMap(browserFailures),
  };
}

/** What a report counts; a run that failed counts at least one failure, whatever its report says. */
export async function tallyOf(
  report: string,
  succeeded: boolean,
  read: (json: unknown) => Tally,
): Promise<Tally> {
  if (!existsSync(report)) return { passed: 0, failed: 1, failures: [`no report at ${report}`] };
  const { passed, failed, failures } = read(JSON.parse(await readFile(report, 'utf8')));
  if (!succeeded && failed === 0)
    return { passed, failed: 1, failures: [`${report} tells of no failure, but the run failed`] };
  return { passed, failed, failures };
}
