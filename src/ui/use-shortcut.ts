'use client';

import { useHotkeys, type HotkeyCallback, type Options } from 'react-hotkeys-hook';

const isLatin = ({ key }: KeyboardEvent): boolean => /^[ -~]+$/.test(key);

/**
 * Answers to a key by what it writes, wherever the keyboard has it; where it writes no Latin letter, by its place.
 * @param keys such as `shift+t` or `mod+shift+z, mod+y`
 */
export function useShortcut(
  keys: string,
  act: HotkeyCallback,
  options: Options = {},
  dependencies: readonly unknown[] = [],
): void {
  useHotkeys(keys, act, { preventDefault: true, useKey: true, ...options }, dependencies);
  useHotkeys(
    keys,
    act,
    {
      preventDefault: true,
      ...options,
      ignoreEventWhen: (event) => isLatin(event) || (options.ignoreEventWhen?.(event) ?? false),
    },
    dependencies,
  );
}
