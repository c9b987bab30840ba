import type { Metadata } from 'next';
import { getTranslations } from 'next-intl/server';
import { listBases } from '@/server/bases';
import { listCollections } from '@/server/collections';
import { BaseList } from '@/ui/bases/base-list';
import { MakeBase } from '@/ui/bases/make-base';
import { Masthead } from '@/ui/shell/masthead';
import { signedIn } from '../visit';

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('bases'))('title') };
}

/** The owner's bases, and how one is made. */
export default async function BasesPage() {
  const t = await getTranslations('bases');
  const owner = await signedIn();
  const [bases, collections] = await Promise.all([listBases(owner), listCollections(owner)]);
  return (
    <>
      <Masthead />
      <main className="page d-flex flex-column gap-3" id="main">
        <div className="d-flex align-items-baseline gap-3">
          <h1 className="m-0">{t('title')}</h1>
          <span className="soft">{t('about')}</span>
        </div>
        <BaseList known={bases} />
        <MakeBase collections={collections} />
      </main>
    </>
  );
}
