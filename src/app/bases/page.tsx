import type { Metadata } from 'next';
import { getTranslations } from 'next-intl/server';
import { listBases } from '@/server/bases';
import { listCollections } from '@/server/collections';
import { latestImports } from '@/server/imports';
import { BaseImports } from '@/ui/bases/base-imports';
import { BaseList } from '@/ui/bases/base-list';
import { MakeBase } from '@/ui/bases/make-base';
import { Masthead } from '@/ui/shell/masthead';
import { signedIn } from '../visit';

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('bases'))('title') };
}

const SHOWN_IMPORTS = 8;

/** The owner's bases, and how one is made. */
export default async function BasesPage() {
  const t = await getTranslations('bases');
  const owner = await signedIn();
  const [bases, collections, imports] = await Promise.all([
    listBases(owner),
    listCollections(owner),
    latestImports(owner, 'bases', SHOWN_IMPORTS),
  ]);
  return (
    <>
      <Masthead />
      <main className="page d-flex flex-column gap-3" id="main">
        <div className="d-flex align-items-baseline gap-3">
          <h1 className="m-0">{t('title')}</h1>
          <span className="soft">{t('about')}</span>
        </div>
        <BaseList known={bases} />
        <BaseImports imports={imports} />
        <MakeBase collections={collections} />
      </main>
    </>
  );
}
