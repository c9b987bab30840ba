import type { Metadata } from 'next';
import { getTranslations } from 'next-intl/server';
import { readPreparationQuery } from '@/contract/preparation';
import { PreparationView } from '@/ui/preparation/preparation-view';
import { Masthead } from '@/ui/shell/masthead';
import { signedIn } from '../visit';

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('preparation'))('title') };
}

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

/** What the reader has prepared for a side, what it lacks, and where their games left it. */
export default async function PreparationPage({ searchParams }: Props) {
  await signedIn();
  return (
    <>
      <Masthead />
      <main className="page d-flex flex-column gap-3" id="main">
        <PreparationView asked={readPreparationQuery(await searchParams)} />
      </main>
    </>
  );
}
