import type { EndingSolverFiles } from '@/engine/hosts/ending-work';
import type { EngineFiles } from '@/engine/hosts/node';

/** The checkout, as the front door found it. */
const root = process.env.BEKTRA_ROOT ?? process.cwd();

export const ENGINE_FILES: EngineFiles = {
  modules: `${root}/dist/engine`,
  thread: `${root}/dist/engine-thread.mjs`,
};

export const ENDING_SOLVER: EndingSolverFiles = {
  module: `${root}/dist/engine/endings.wasm`,
  thread: `${root}/dist/ending-thread.mjs`,
};
