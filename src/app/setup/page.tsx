import type { Metadata } from 'next';
import { getTranslations } from 'next-intl/server';
import * as z from 'zod';
import { Masthead } from '@/ui/shell/masthead';
import { PositionEditor } from '@/ui/setup/position-editor';
import { GAME_KINDS } from '@/core/game/ruleset';

const querySchema = z.object({
  kind: z.enum(GAME_KINDS).catch('chess'),
  position: z.string().max(200).nullable().catch(null),
});

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('setup'))('title') };
}

export default async function SetupPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const t = await getTranslations('setup');
  const { kind, position } = querySchema.parse(await searchParams);
  return (
    <>
      <Masthead />
      <main className="page d-flex flex-column gap-3" id="main">
        <h1 className="m-0">{t('title')}</h1>
        <PositionEditor key={`${kind} ${position}`} kind={kind} from={position} />
      </main>
    </>
  );
}
