import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    include: ['src/**/*.test.ts', 'demo/**/*.test.ts', 'tests/{server,cli}/**/*.test.ts'],
    // one less than there are cores would leave one of two idle
    env: { BEKTRA_SECRET: 'sessions of tests are signed with this text' },
    maxWorkers: 2,
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
});
