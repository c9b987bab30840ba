'use client';

import { useHotkeys, type HotkeyCallback, type Options } from 'react-hotkeys-hook';

const isLatin = ({ key }: KeyboardEvent): boolean => /^[ -~]+$/.test(key);

/**
 * Answers to keys by what they write, wherever the keyboard has them; where that is no Latin letter, by their place.
 * @param actions by keys such as `t`, `shift+up` and `mod+z`
 */
export function useShortcuts(
  actions: Readonly<Record<string, () => void>>,
  options: Options = {},
): void {
  const keys = Object.keys(actions);
  const act: HotkeyCallback = (_, { hotkey }) => actions[hotkey]?.();
  useHotkeys(keys, act, { preventDefault: true, useKey: true, ...options });
  useHotkeys(keys, act, {
    preventDefault: true,
    ...options,
    ignoreEventWhen: (event) => isLatin(event) || (options.ignoreEventWhen?.(event) ?? false),
  });
}
