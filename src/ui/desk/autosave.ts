'use client';

import { useEffect, useRef, useState } from 'react';
import { changesSchema, changesSince, MOST_STEPS, saveSteps } from '@/contract/games';
import type { Step } from '@/core/game/steps';
import { call, Refused, wordsOf } from '../call';
import { useServerEvents } from '../server-events';
import { useDesk, useDeskStore, useMay } from './desk-store';
import { keepGame } from './keep-game';

/** `onlyRead`: nothing that is entered is kept. `unkept`: the server does not hold the game, and nothing is entered that it should. */
export type SaveState = 'onlyRead' | 'unkept' | 'saved' | 'saving' | 'failed' | 'refused';

const NOTHING: readonly Step[] = [];
const PAUSE_MS = 400;
/** Pauses before another try, the last for all further ones. */
const RETRY_MS = [4000, 8000, 16_000, 32_000, 60_000];
const save = (id: number, version: number, steps: readonly Step[], keepalive = false) =>
  call(saveSteps, { id, body: { version, steps: [...steps] }, keepalive });

/** Sends edits to the server as they come, and takes over what others do to the game meanwhile. */
export function useAutosave(): SaveState {
  const store = useDeskStore();
  const gameId = useDesk((state) => state.gameId);
  const mayWrite = useMay('comment');
  const entered = useDesk((state) => state.unsaved);
  const unsaved = mayWrite ? entered : NOTHING;
  const refused = useDesk((state) => state.refused);
  const conflict = useDesk((state) => state.conflict);
  const [failures, setFailures] = useState(0);
  /** The save that is under way. */
  const underWay = useRef<Promise<void> | null>(null);
  const failed = useRef(false);

  useEffect(() => {
    if (unsaved.length === 0 || conflict || refused !== null) return;
    const send = async (): Promise<void> => {
      const { gameId: id, version, unsaved: all } = store.getState();
      if (id === null) {
        failed.current = (await keepGame(store)) === null;
        setFailures((count) => (failed.current ? count + 1 : 0));
        return;
      }
      const steps = all.slice(0, MOST_STEPS);
      try {
        const saved = await save(id, version, steps);
        store.getState().saved(steps.length, saved.version);
        failed.current = false;
        setFailures(0);
      } catch (error) {
        const refusal = error instanceof Refused ? error : null;
        failed.current = refusal?.status !== 409;
        if (refusal?.status === 409) {
          store.getState().changedElsewhere(changesSchema.parse(refusal.detail));
          setFailures(0);
        } else if (refusal?.isFinal) store.getState().refuse(wordsOf(refusal));
        else setFailures((count) => count + 1);
      }
    };
    const saveNow = (): void => {
      underWay.current ??= send().finally(() => (underWay.current = null));
    };
    const pause = failures > 0 ? RETRY_MS[Math.min(failures, RETRY_MS.length) - 1] : PAUSE_MS;
    const timer = setTimeout(saveNow, pause);
    return () => clearTimeout(timer);
  }, [store, unsaved, conflict, refused, failures]);

  useEffect(() => {
    const sendRest = (): void => {
      const { gameId: id, version, unsaved: steps, conflict: open, refused: no } = store.getState();
      if (!mayWrite || steps.length === 0 || open || no !== null) return;
      if (id === null) void keepGame(store, true);
      else void save(id, version, steps, true).catch(() => undefined);
    };
    const leavePage = (): void => {
      if (!underWay.current) sendRest();
    };
    // what can't be sent in leaving is asked about: an open conflict, a server that is away, a save under way
    const warn = (event: BeforeUnloadEvent): void => {
      const { conflict: open, unsaved: steps, refused: no } = store.getState();
      if (!mayWrite) return;
      if (open || no !== null || (steps.length > 0 && (failed.current || underWay.current)))
        event.preventDefault();
    };
    window.addEventListener('pagehide', leavePage);
    window.addEventListener('beforeunload', warn);
    return () => {
      window.removeEventListener('pagehide', leavePage);
      window.removeEventListener('beforeunload', warn);
      // to another view: the page lives on, and what is under way is waited for
      void (underWay.current ?? Promise.resolve()).then(sendRest);
    };
  }, [store, mayWrite]);

  const lookForChanges = (): void => {
    // while steps are under way, their own echo tells nothing new, and their answer tells of others
    if (gameId === null || underWay.current) return;
    const { version } = store.getState();
    void call(changesSince, { id: gameId, query: { since: version } })
      .then((changes) => {
        if (!underWay.current && store.getState().version === version)
          store.getState().changedElsewhere(changes);
      })
      .catch(() => undefined);
  };
  useServerEvents((event) => {
    if (event.type === 'game' && event.gameId === gameId) lookForChanges();
  }, lookForChanges);

  if (!mayWrite) return 'onlyRead';
  if (refused !== null) return 'refused';
  if (unsaved.length === 0) return gameId === null ? 'unkept' : 'saved';
  return failures > 0 ? 'failed' : 'saving';
}
