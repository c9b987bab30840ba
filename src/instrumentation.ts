/** What the web part says goes out as structured lines, errors without what people wrote; libraries are read before they are asked for. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs' || process.env.NODE_ENV !== 'production') return;
  const { logger } = await import('@/server/log');
  const log = logger('web');
  const say =
    (level: 'info' | 'warn' | 'error') =>
    (...parts: unknown[]): void => {
      const err = parts.find((part) => part instanceof Error);
      const words = parts.filter((part) => typeof part === 'string').join(' ');
      // an error's own text may hold what people wrote
      log[level](err ? { err } : {}, err ? 'request failed' : words.slice(0, 500).trim());
    };
  console.error = say('error');
  console.warn = say('warn');
  console.log = say('info');
  console.info = say('info');
  const { warmLibraries } = await import('@/server/warm-libraries');
  // not waited for: whoever comes first is served at once
  warmLibraries().catch((err: unknown) => log.error({ err }, 'libraries not read beforehand'));
}
