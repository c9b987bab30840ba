'use client';

import type { Options } from 'react-hotkeys-hook';
import { useShortcuts } from '../use-shortcuts';

interface Shortcut {
  /** As people are told of it. */
  shown: string;
  /** What is pressed; the second goes the other way, but for digits, which count. Empty where something else listens to it. */
  keys: readonly string[];
}

/** All keys of the Desk, by what they are for: from here the page takes what it answers to, its menus and its sheet of keys. */
export const SHORTCUTS = {
  stepping: {
    forward: { shown: '→', keys: ['right'] },
    back: { shown: '←', keys: ['left'] },
    otherMove: { shown: '↑ ↓', keys: ['down', 'up'] },
    start: { shown: 'Home', keys: ['home'] },
    end: { shown: 'End', keys: ['end'] },
    turningPoint: { shown: 'T', keys: ['t', 'shift+t'] },
    ownError: { shown: 'M', keys: ['m', 'shift+m'] },
    noted: { shown: 'N', keys: ['n', 'shift+n'] },
    leaveLine: { shown: 'Esc', keys: ['esc'] },
    flip: { shown: 'F', keys: ['f'] },
    run: { shown: 'P', keys: ['p'] },
  },
  writing: {
    move: { shown: '/', keys: ['/'] },
    after: { shown: 'C', keys: ['c'] },
    before: { shown: 'Shift+C', keys: ['shift+c'] },
    lesson: { shown: 'L', keys: ['l'] },
    signs: { shown: '! ? = o', keys: [] },
    draw: { shown: 'D', keys: ['d'] },
    up: { shown: 'Shift+↑', keys: ['shift+up'] },
    down: { shown: 'Shift+↓', keys: ['shift+down'] },
    mainLine: { shown: 'Shift+Home', keys: ['shift+home'] },
    deleteFrom: { shown: 'Del', keys: ['delete'] },
    deleteVariation: { shown: 'Shift+Del', keys: ['shift+delete'] },
    undo: { shown: 'Ctrl+Z', keys: ['mod+z'] },
    redo: { shown: 'Ctrl+Shift+Z', keys: ['mod+shift+z', 'mod+y'] },
    paste: { shown: 'Ctrl+V', keys: [] },
  },
  engine: {
    think: { shown: 'E', keys: ['e'] },
    threat: { shown: 'X', keys: ['x'] },
    doubt: { shown: 'I', keys: ['i'] },
    sweep: { shown: 'S', keys: ['s'] },
    card: { shown: '1 … 9, 0', keys: ['1', '2', '3', '4', '5', '6', '7', '8', '9', '0'] },
    help: { shown: 'H', keys: ['h'] },
  },
} as const satisfies Record<string, Record<string, Shortcut>>;

type Group<Name> = Name extends keyof typeof SHORTCUTS ? keyof (typeof SHORTCUTS)[Name] : never;
export type ShortcutName = Group<keyof typeof SHORTCUTS>;

const BY_NAME = Object.assign({}, ...Object.values(SHORTCUTS)) as Record<ShortcutName, Shortcut>;

/** As people are told of a key. */
export const shownKey = (name: ShortcutName): string => BY_NAME[name].shown;

/** Answers to keys of the Desk; `key`: the one that was pressed; `other`: the second of a pair was pressed, which goes the other way. */
export function useDeskShortcuts(
  actions: Partial<Record<ShortcutName, (other: boolean, key: string) => void>>,
  options?: Options,
): void {
  const byKey: Record<string, () => void> = {};
  for (const [name, act] of Object.entries(actions))
    for (const [index, key] of BY_NAME[name as ShortcutName].keys.entries())
      byKey[key] = () => act(index === 1, key);
  useShortcuts(byKey, options);
}
