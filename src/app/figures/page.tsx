import type { Metadata } from 'next';
import Link from 'next/link';
import { getTranslations } from 'next-intl/server';
import * as z from 'zod';
import { GAME_KINDS } from '@/core/game/ruleset';
import { listFigures, MOST_FIGURES } from '@/server/game-figures';
import { FiguresTable } from '@/ui/games/figures-table';
import { Masthead } from '@/ui/shell/masthead';
import { signedIn } from '../visit';

export const dynamic = 'force-dynamic';

const querySchema = z.object({
  kind: z.enum(GAME_KINDS).optional().catch(undefined),
  text: z.string().max(100).optional().catch(undefined),
  player: z.coerce.number().int().positive().optional().catch(undefined),
  against: z.coerce.number().int().positive().optional().catch(undefined),
});

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('figures'))('title') };
}

/** What sweeps say of many games, side by side. */
export default async function FiguresPage({ searchParams }: Props) {
  const t = await getTranslations('figures');
  const { kind, text, player, against } = querySchema.parse(await searchParams);
  const filter = {
    ...(kind ? { kind } : {}),
    ...(text ? { text } : {}),
    ...(player ? { player } : {}),
    ...(against ? { against } : {}),
  };
  const query = new URLSearchParams(
    Object.entries(filter).map(([name, value]) => [name, String(value)]),
  );
  const { rows, total } = await listFigures(await signedIn(), filter);
  return (
    <>
      <Masthead />
      <main className="page d-flex flex-column gap-3" id="main">
        <div className="d-flex align-items-baseline gap-3 flex-wrap">
          <h1 className="m-0">{t('title')}</h1>
          <span className="soft">{t('count', { count: rows.length, total })}</span>
          <Link href={`/?${query}`}>{t('back')}</Link>
        </div>
        {rows.length === 0 ? <p>{t('none')}</p> : <FiguresTable rows={rows} />}
        {rows.length >= MOST_FIGURES && <p className="soft">{t('most', { most: MOST_FIGURES })}</p>}
      </main>
    </>
  );
}
