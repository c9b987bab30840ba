import { listen } from '@/server/events';
import { askerOf, giversTo, mayRead } from '@/server/access';
import { refused, route } from '../guard';

export const dynamic = 'force-dynamic';

const HEARTBEAT_MS = 20_000;

/** Streams that are open, so that the process can end while pages are still looking. */
const store = globalThis as { bektraStreams?: Set<() => void> };
const streams = (store.bektraStreams ??= closeOnExit());

function closeOnExit(): Set<() => void> {
  const open = new Set<() => void>();
  for (const signal of ['SIGTERM', 'SIGINT'] as const)
    process.on(signal, () => open.forEach((close) => close()));
  return open;
}

/** Server-sent events: each tells that something has changed that who listens may see. */
export const GET = route(async (request) => {
  let asker = await askerOf(request.headers);
  if (!asker.account && asker.links.length === 0) return refused(401, 'signedOut');
  const signedInAs = asker.account?.id;
  // most of what happens concerns people who have given nothing
  let givers = await giversTo(asker);
  const encoder = new TextEncoder();
  let close = (): void => {};
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      const send = (text: string): void => controller.enqueue(encoder.encode(text));
      /** Who has signed out meanwhile hears no more, and who has been given something hears of that too. */
      const lookAgain = async (): Promise<void> => {
        asker = await askerOf(request.headers);
        givers = await giversTo(asker);
        if (asker.account?.id === signedInAs) send(': still here\n\n');
        else close();
      };
      const stopListening = listen((event) => {
        const { owner, ...told } = event;
        const tell = (): void => send(`data: ${JSON.stringify(told)}\n\n`);
        if (owner === asker.account?.id) {
          if (told.type === 'grant')
            void lookAgain().then(
              () => streams.has(close) && tell(),
              () => close(),
            );
          else tell();
        } else if (told.gameId !== undefined && givers.has(owner))
          void mayRead(asker, told.gameId).then(
            (may) => may && streams.has(close) && tell(),
            () => close(),
          );
      });
      const heartbeat = setInterval(() => void lookAgain().catch(() => close()), HEARTBEAT_MS);
      close = () => {
        clearInterval(heartbeat);
        stopListening();
        streams.delete(close);
        try {
          controller.close();
        } catch {
          // closed by the other side
        }
      };
      streams.add(close);
      request.signal.addEventListener('abort', close);
      send(': welcome\n\n');
    },
    cancel: () => close(),
  });
  return new Response(body, {
    headers: { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-cache, no-transform' },
  });
});
