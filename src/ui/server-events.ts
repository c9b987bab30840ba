'use client';

import { useEffect, useRef } from 'react';
import { eventSchema, type ServerEvent } from '@/contract/events';

const NAME = 'bektra-events';

type Listener = (event: ServerEvent) => void;

/**
 * One stream of events for all tabs: the tab that holds the lock listens to the server and passes on what it hears;
 * when it closes, the next one takes over. A browser allows only six connections to a server.
 */
class SharedEvents {
  private readonly listeners = new Set<Listener>();
  private readonly reconnected = new Set<() => void>();
  private channel: BroadcastChannel | null = null;

  add(listener: Listener, onReconnect: () => void): () => void {
    this.listeners.add(listener);
    this.reconnected.add(onReconnect);
    this.start();
    return () => {
      this.listeners.delete(listener);
      this.reconnected.delete(onReconnect);
    };
  }

  private start(): void {
    if (this.channel) return;
    const channel = new BroadcastChannel(NAME);
    this.channel = channel;
    channel.onmessage = (message: MessageEvent<ServerEvent | 'open'>) => this.hear(message.data);
    void navigator.locks.request(NAME, () => new Promise<never>(() => this.listen(channel)));
  }

  private listen(channel: BroadcastChannel): void {
    const source = new EventSource('/api/events');
    const pass = (message: ServerEvent | 'open'): void => {
      this.hear(message);
      channel.postMessage(message);
    };
    source.onopen = () => pass('open');
    source.onmessage = (message: MessageEvent<string>) =>
      pass(eventSchema.parse(JSON.parse(message.data)));
  }

  private hear(message: ServerEvent | 'open'): void {
    if (message === 'open') for (const reconnected of this.reconnected) reconnected();
    else for (const listener of this.listeners) listener(message);
  }
}

let shared: SharedEvents | null = null;

/**
 * Hears what changes on the server while the component is shown.
 * @param onReconnect called when events may have been missed
 */
export function useServerEvents(listener: Listener, onReconnect: () => void): void {
  const latest = useRef({ listener, onReconnect });
  useEffect(() => {
    latest.current = { listener, onReconnect };
  });
  useEffect(() => {
    shared ??= new SharedEvents();
    return shared.add(
      (event) => latest.current.listener(event),
      () => latest.current.onReconnect(),
    );
  }, []);
}
