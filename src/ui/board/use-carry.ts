'use client';

import { useRef, useState, type PointerEvent } from 'react';
import type { Square } from '@/core/game/move';
import type { BoardInput, Source } from './board-props';

/** What the pointer carries, and where it is in the units of the board's picture. */
export interface Carried {
  source: Source;
  at: readonly [number, number];
}

/** Pixels that the pointer has to go before a press becomes a drag. */
const SLACK = 6;

const squareOf = (element: Element | null): Square | null => {
  const name = element?.closest('[data-square]')?.getAttribute('data-square');
  return name ? Number(name) : null;
};

function sourceOf(element: Element): Source | null {
  const square = squareOf(element);
  if (square !== null) return { square };
  const hand = element.closest('[data-hand-piece]')?.getAttribute('data-hand-piece');
  return hand ? { hand: Number(hand) } : null;
}

/** Lets the pointer take something from a square or a piece stand to another square. */
export function useCarry(input: BoardInput | undefined) {
  const press = useRef<{ source: Source; x: number; y: number } | null>(null);
  const [carried, setCarried] = useState<Carried | null>(null);
  const end = (): void => {
    press.current = null;
    setCarried(null);
  };
  const handlers = {
    onPointerDown({ target, button, clientX, clientY }: PointerEvent<SVGSVGElement>) {
      const source = button === 0 && target instanceof Element ? sourceOf(target) : null;
      press.current = source && input?.canCarry(source) ? { source, x: clientX, y: clientY } : null;
    },
    onPointerMove({ currentTarget, clientX, clientY }: PointerEvent<SVGSVGElement>) {
      const { current } = press;
      if (!current) return;
      if (!carried && Math.hypot(clientX - current.x, clientY - current.y) < SLACK) return;
      const matrix = currentTarget.getScreenCTM();
      if (!matrix) return;
      const { x, y } = new DOMPoint(clientX, clientY).matrixTransform(matrix.inverse());
      setCarried({ source: current.source, at: [x, y] });
    },
    onPointerUp({ clientX, clientY }: PointerEvent<SVGSVGElement>) {
      const to = carried && squareOf(document.elementFromPoint(clientX, clientY));
      const source = carried?.source;
      end();
      if (source && to !== null && !('square' in source && source.square === to))
        input?.onCarry(source, to);
    },
    onPointerCancel: end,
    onPointerLeave: end,
  };
  return { carried, handlers };
}
