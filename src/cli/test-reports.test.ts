import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { browserTally, tallyOf, unitTally } from './test-reports';

const unit = {
  numPassedTests: 1,
  numFailedTests: 1,
  testResults: [
    {
      name: '/src/a.test.ts',
      status: 'failed',
      message: '',
      assertionResults: [
        { fullName: 'adds', status: 'passed', failureMessages: [] },
        { fullName: 'takes away', status: 'failed', failureMessages: ['expected 1 to be 2'] },
      ],
    },
    { name: '/src/b.test.ts', status: 'failed', message: 'no such module', assertionResults: [] },
    { name: '/src/c.test.ts', status: 'passed', message: '', assertionResults: [] },
  ],
};

const spec = (title: string, ok: boolean, message: string) => ({
  title,
  ok,
  tests: [{ results: [{ errors: ok ? [] : [{ message }] }] }],
});

const browser = {
  stats: { expected: 2, unexpected: 1, flaky: 1 },
  suites: [
    {
      title: 'games.spec.ts',
      specs: [spec('the list', true, ''), spec('a game', false, 'Timeout')],
      suites: [{ title: 'shogi', specs: [spec('a sheet', false, 'not seen')] }],
    },
  ],
};

describe('reports of tests', () => {
  test('a unit test that failed is told by name, a file that could not be run by its own', () => {
    expect(unitTally(unit)).toEqual({
      passed: 1,
      failed: 1,
      failures: [
        '/src/a.test.ts › takes away\nexpected 1 to be 2',
        '/src/b.test.ts\nno such module',
      ],
    });
  });

  test('browser tests are told from every depth, and one that passed in the end only failed', () => {
    expect(browserTally(browser)).toEqual({
      passed: 2,
      failed: 2,
      failures: ['games.spec.ts › a game\nTimeout', 'shogi › a sheet\nnot seen'],
    });
  });

  test('a run that failed counts a failure, whatever its report says', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'bektra-reports-'));
    const report = join(folder, 'report.json');
    expect(await tallyOf(report, true, unitTally)).toMatchObject({ passed: 0, failed: 1 });
    await writeFile(report, JSON.stringify({ ...unit, numFailedTests: 0, testResults: [] }));
    expect(await tallyOf(report, true, unitTally)).toMatchObject({ passed: 1, failed: 0 });
    expect(await tallyOf(report, false, unitTally)).toMatchObject({ passed: 1, failed: 1 });
    await rm(folder, { recursive: true });
  });
});
