import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    include: ['src/**/*.test.ts', 'demo/**/*.test.ts', 'tests/{server,cli}/**/*.test.ts'],
    env: { BEKTRA_SECRET: 'sessions of tests are signed with this text' },
    // more than there are cores: much of a test is waiting for programs it has started
    maxWorkers: 3,
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
});
