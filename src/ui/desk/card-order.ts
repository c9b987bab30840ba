'use client';

import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { useMedia } from '../use-media';
import { CARDS, type CardName } from './card-names';

interface CardOrder {
  order: readonly CardName[];
  /** Those that show more than their headline, beside the sheet. */
  open: readonly CardName[];
  /** The one that is open where there is room for one. */
  single: CardName | null;
  /** The one that takes the sheet's place; it does not last. */
  spread: CardName | null;
  set(change: Partial<Pick<CardOrder, 'order' | 'open' | 'single' | 'spread'>>): void;
}

const isCard = (name: unknown): name is CardName => (CARDS as readonly unknown[]).includes(name);

/** What was kept of an order, with cards that have come since at its end, and none that has gone. */
export function orderFrom(kept: unknown): CardName[] {
  const known = Array.isArray(kept) ? kept.filter(isCard) : [];
  return [...new Set([...known, ...CARDS])];
}

/** Moves one card to the place of another. */
export function movedTo(
  order: readonly CardName[],
  card: CardName,
  place: number,
): readonly CardName[] {
  const at = Math.max(0, Math.min(order.length - 1, place));
  return order.filter((one) => one !== card).toSpliced(at, 0, card);
}

/** How a person has arranged the cards; kept in the browser. */
export const useCardOrder = create<CardOrder>()(
  persist(
    (set) => ({
      order: CARDS,
      open: ['lines'],
      single: null,
      spread: null,
      set: (change) => set(change),
    }),
    {
      name: 'bektra-cards',
      skipHydration: true,
      partialize: ({ order, open }) => ({ order, open }),
      merge: (kept, current) => {
        const { order, open } = (kept ?? {}) as { order?: unknown; open?: unknown };
        return {
          ...current,
          order: orderFrom(order),
          open: Array.isArray(open) ? open.filter(isCard) : current.open,
        };
      },
    },
  ),
);

/** The cards stand under the board, where there is room for one of them. */
const NARROW = '(max-width: 991px)';

/** Whether a card shows more than its headline, and what changes that. */
export function useOpenCard(name: CardName): { isOpen: boolean; toggle(): void } {
  const isNarrow = useMedia(NARROW);
  const { open, single, spread, set } = useCardOrder();
  const isSpread = spread === name && !isNarrow;
  const isOpen = isSpread || (isNarrow ? single === name : open.includes(name));
  const toggle = (): void => {
    if (isSpread) set({ spread: null });
    else if (isNarrow) set({ single: isOpen ? null : name });
    else set({ open: isOpen ? open.filter((one) => one !== name) : [...open, name] });
  };
  return { isOpen, toggle };
}
