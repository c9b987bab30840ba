import type { Metadata } from 'next';
import { getTranslations } from 'next-intl/server';
import { Masthead } from '@/ui/shell/masthead';
import { PositionEditor } from '@/ui/setup/position-editor';
import { positionQuerySchema } from '../position-query';
import { signedIn } from '../visit';

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('setup'))('title') };
}

export default async function SetupPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  await signedIn();
  const t = await getTranslations('setup');
  const { kind, position } = positionQuerySchema.parse(await searchParams);
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
