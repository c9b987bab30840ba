import type { Metadata } from 'next';
import { getTranslations } from 'next-intl/server';
import { Entry } from '@/ui/entry/entry';
import { Masthead } from '@/ui/shell/masthead';

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('entry'))('title') };
}

export default async function EntryPage() {
  const t = await getTranslations('entry');
  return (
    <>
      <Masthead />
      <main className="page" id="main">
        <h1>{t('title')}</h1>
        <Entry />
      </main>
    </>
  );
}
