import type { Metadata } from 'next';
import { getTranslations } from 'next-intl/server';
import * as z from 'zod';
import { Entry } from '@/ui/entry/entry';
import { Masthead } from '@/ui/shell/masthead';
import { GAME_KINDS } from '@/core/game/ruleset';
import { signedIn } from '../../visit';

const querySchema = z.object({ kind: z.enum(GAME_KINDS).nullable().catch(null) });

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('entry'))('title') };
}

export default async function EntryPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  await signedIn();
  const t = await getTranslations('entry');
  const { kind } = querySchema.parse(await searchParams);
  return (
    <>
      <Masthead />
      <main className="page" id="main">
        <h1>{t('title')}</h1>
        <Entry key={kind} asked={kind} />
      </main>
    </>
  );
}
