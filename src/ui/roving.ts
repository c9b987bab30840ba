'use client';

import type { KeyboardEvent, MouseEvent } from 'react';

const WAYS: Readonly<Record<string, (at: number, count: number) => number>> = {
  ArrowRight: (at, count) => Math.min(at + 1, count - 1),
  ArrowLeft: (at) => Math.max(at - 1, 0),
  Home: () => 0,
  End: (_, count) => count - 1,
};

/**
 * Lets arrow keys go through the buttons of an element that is one stop for the tab key: give it to the element's `onKeyDown`, and all
 * its buttons but the first a `tabIndex` of -1.
 */
export function rove(event: KeyboardEvent<HTMLElement>): void {
  const way = WAYS[event.key];
  const { ctrlKey, metaKey, altKey, shiftKey } = event;
  if (!way || ctrlKey || metaKey || altKey || shiftKey) return;
  const buttons = [...event.currentTarget.querySelectorAll<HTMLElement>('button:not(:disabled)')];
  const at = buttons.indexOf(document.activeElement as HTMLElement);
  if (at < 0) return;
  // the Desk's own arrow keys step through the game
  event.preventDefault();
  event.stopPropagation();
  event.nativeEvent.stopImmediatePropagation();
  buttons[way(at, buttons.length)]!.focus();
}

/** After a click by hand the arrow keys go on stepping through the game: give it to `onClick` of the buttons. */
export function releaseAfterClick(event: MouseEvent<HTMLElement>): void {
  if (event.detail > 0) event.currentTarget.blur();
}
