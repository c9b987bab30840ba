import { openDemo, signOut } from '@/contract/account';

/** What loads most when it is first shown: the library, and a Desk. */
const PAGES = ['', 'desk'];
const VISIT_MS = 5000;

/**
 * Has every web process show its pages once, as anybody can who looks at the demo, so that what a process loads for the first view keeps
 * nobody waiting. Where there is no demo, or it goes wrong, the first view takes that much longer.
 */
export async function showFirstViews(url: string, processes: number): Promise<void> {
  const ask = (path: string, options: RequestInit): Promise<Response> =>
    fetch(new URL(path, url), { ...options, signal: AbortSignal.timeout(VISIT_MS) });
  const show = async (headers: HeadersInit): Promise<void> => {
    // as many at once as there are processes, which take connections in turn
    for (const page of PAGES)
      await Promise.all(
        Array.from({ length: processes }, async () => (await ask(page, { headers })).text()),
      );
  };
  try {
    const opened = await ask(openDemo.path, { method: openDemo.method });
    const [cookie] = (opened.headers.getSetCookie()[0] ?? '').split(';');
    if (!cookie) return;
    const headers = { cookie };
    await show(headers).finally(() => ask(signOut.path, { method: signOut.method, headers }));
  } catch {
    return;
  }
}
