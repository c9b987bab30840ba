import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { getTranslations } from 'next-intl/server';
import * as z from 'zod';
import type { Side } from '@/core/game/ruleset';
import { thinkingStop } from '@/server/thinking';
import { Masthead } from '@/ui/shell/masthead';
import { ThinkFirst } from '@/ui/think/think-first';
import { visitGame } from '../../../visit';

interface Props {
  params: Promise<{ id: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

const SIDES: Record<'0' | '1' | 'both', Side | null> = { 0: 0, 1: 1, both: null };

const querySchema = z.object({
  side: z.enum(['0', '1', 'both']).optional().catch(undefined),
  /** Seconds for each position; 0: as long as it takes. */
  time: z.coerce.number().int().min(0).max(3600).catch(0),
  stop: z.coerce.number().int().min(1).catch(1),
});

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('think'))('title') };
}

export default async function ThinkPage({ params, searchParams }: Props) {
  const { side, time, stop } = querySchema.parse(await searchParams);
  const { owner, gameId } = await visitGame((await params).id);
  const asked = side === undefined ? null : SIDES[side];
  // until it is known whose moves are asked for, no move of the game is sent
  const place = side === undefined ? 0 : stop;
  const found = await thinkingStop(owner, gameId, asked, place);
  if (!found) notFound();
  return (
    <>
      <Masthead />
      <ThinkFirst
        key={`${side}:${stop}`}
        {...found}
        side={asked}
        begun={side !== undefined}
        seconds={time}
        stop={stop}
      />
    </>
  );
}
