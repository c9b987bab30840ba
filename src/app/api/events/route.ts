import { listen } from '@/server/events';
import { currentOwner } from '@/server/owner';
import { route } from '../guard';

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

/** Server-sent events: each tells that something of the owner's has changed. */
export const GET = route(async (request) => {
  const owner = await currentOwner();
  const encoder = new TextEncoder();
  let close = (): void => {};
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      const send = (text: string): void => controller.enqueue(encoder.encode(text));
      const stopListening = listen((event) => {
        if (event.owner !== owner.id) return;
        const { owner: _, ...told } = event;
        send(`data: ${JSON.stringify(told)}\n\n`);
      });
      const heartbeat = setInterval(() => send(': still here\n\n'), HEARTBEAT_MS);
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
