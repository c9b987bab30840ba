import { CHROMIUM } from '../chromium';
import { chromium, type Browser, type BrowserContext } from '@playwright/test';
import * as z from 'zod';
import { settings } from '@/server/settings';
import { CommandError } from '../exit';
import { runningServer } from '../serve/run-file';

/** A headless browser and the address of the server that is running. */
export async function besideServer(): Promise<{ server: string; browser: Browser }> {
  const running = await runningServer(settings().data);
  if (!running)
    throw new CommandError('Start Bektra first (./bektra start), then run this bench beside it.');
  const browser = await chromium.launch({
    executablePath: CHROMIUM,
    args: ['--no-sandbox', '--disable-gpu', '--no-first-run', '--disable-background-networking'],
  });
  return { server: running.url, browser };
}

/** A new visitor in the demo account. */
export async function demoVisitor(browser: Browser, server: string): Promise<BrowserContext> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const opened = await context.request.post(new URL('/api/account/demo', server).href);
  if (!opened.ok())
    throw new CommandError('The demo account is closed (BEKTRA_DEMO in settings.env).');
  return context;
}

/** What is read of a browser's trace. */
export const traceSchema = z.object({
  traceEvents: z.array(
    z.looseObject({
      name: z.string(),
      tid: z.number().default(0),
      ts: z.number().default(0),
      dur: z.number().default(0),
      /** Microseconds that the thread itself ran. */
      tdur: z.number().default(0),
      args: z
        .looseObject({ data: z.looseObject({ type: z.string().optional() }).optional() })
        .optional(),
    }),
  ),
});

export type TraceEvent = z.infer<typeof traceSchema>['traceEvents'][number];
