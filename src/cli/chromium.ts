import { existsSync } from 'node:fs';

/** Debian's Chromium without windows, which takes half the time of the one with them; either will do. */
export const CHROMIUM = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find((path) =>
  existsSync(path),
);
