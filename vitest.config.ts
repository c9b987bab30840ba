import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';
import { BaseSequencer, type TestSpecification } from 'vitest/node';

/** The file that takes longest, by itself at the end if it does not begin first. */
const LONGEST = 'src/engine/errors.test.ts';

class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const isLongest = ({ moduleId }: TestSpecification): boolean => moduleId.endsWith(LONGEST);
    const sorted = await super.sort(files);
    return [...sorted.filter(isLongest), ...sorted.filter((file) => !isLongest(file))];
  }
}

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    include: ['src/**/*.test.ts', 'demo/**/*.test.ts', 'tests/{server,cli}/**/*.test.ts'],
    env: {
      BEKTRA_SECRET: 'sessions of tests are signed with this text',
      // workers of tests make none beside what they are tested for
      BEKTRA_ENDING_PIECES: '0',
    },
    // more than there are cores: much of a test is waiting for programs it has started
    maxWorkers: 3,
    sequence: { sequencer: LongestFirst },
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
});
