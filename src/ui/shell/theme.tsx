'use client';

import { useEffect, useSyncExternalStore } from 'react';
import { usePreferences } from '../preferences';

const QUERY = '(prefers-color-scheme: dark)';

let asked: MediaQueryList | null = null;
const query = (): MediaQueryList => (asked ??= window.matchMedia(QUERY));

const subscribe = (onChange: () => void): (() => void) => {
  query().addEventListener('change', onChange);
  return () => query().removeEventListener('change', onChange);
};

/** Whether the page is dark: as chosen, else as the system is. */
export function useDarkMode(): boolean {
  const theme = usePreferences((state) => state.theme);
  const system = useSyncExternalStore(
    subscribe,
    () => query().matches,
    () => false,
  );
  return theme === 'system' ? system : theme === 'dark';
}

/** Reads the preferences once the page runs, and sets the theme whenever it changes. */
export function ThemeKeeper() {
  const dark = useDarkMode();
  useEffect(() => {
    void usePreferences.persist.rehydrate();
  }, []);
  useEffect(() => {
    document.documentElement.dataset.bsTheme = dark ? 'dark' : 'light';
  }, [dark]);
  return null;
}
