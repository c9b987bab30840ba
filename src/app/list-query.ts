import * as z from 'zod';
import type { ListPlace, ListStretch } from '@/server/game-list';

const PLACE = /^[0-9?.-]{0,10}~\d{1,15}$/;

/** From where on a list of games is shown, as its address says. */
export const listQuerySchema = z.object({
  /** A place in the list, as {@link placeQuery} writes it: what follows it, or what comes before it. */
  older: z.string().regex(PLACE).optional().catch(undefined),
  newer: z.string().regex(PLACE).optional().catch(undefined),
});

/** A place for an address: the list goes on from it, one way or the other. */
export const placeQuery = (way: 'older' | 'newer', { date, id }: ListPlace): URLSearchParams =>
  new URLSearchParams({ [way]: `${date ?? ''}~${id}` });

export function stretchOf({
  older,
  newer,
}: {
  older?: string | undefined;
  newer?: string | undefined;
}): ListStretch | null {
  const text = older ?? newer;
  if (text === undefined) return null;
  const [date, id] = text.split('~');
  const from = { date: date === '' ? null : date!, id: Number(id) };
  return { from, way: older === undefined ? 'newer' : 'older' };
}
