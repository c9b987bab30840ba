import type { EngineFiles } from '@/engine/hosts/node';

/** The checkout, as the front door found it. */
const root = process.env.BEKTRA_ROOT ?? process.cwd();

export const ENGINE_FILES: EngineFiles = {
  modules: `${root}/dist/engine`,
  thread: `${root}/dist/engine-thread.mjs`,
};
