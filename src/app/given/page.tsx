import type { Metadata } from 'next';
import Link from 'next/link';
import { redirect } from 'next/navigation';
import { getTranslations } from 'next-intl/server';
import { ownBases } from '@/server/bases';
import { listCollections } from '@/server/collections';
import { grantsBy, grantsTo } from '@/server/grants';
import { GrantForm } from '@/ui/given/grant-form';
import { GivenList, ReceivedList } from '@/ui/given/grant-lists';
import { Masthead } from '@/ui/shell/masthead';
import { visitor } from '../visit';

interface Props {
  searchParams: Promise<{ gone?: string }>;
}

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('given'))('title') };
}

/** What one has given to others, and been given by them. */
export default async function GivenPage({ searchParams }: Props) {
  const t = await getTranslations('given');
  const asker = await visitor();
  const isGone = (await searchParams).gone !== undefined;
  if (!asker.account && asker.links.length === 0 && !isGone) redirect('/sign-in?to=/given');
  const received = await grantsTo(asker);
  return (
    <>
      <Masthead />
      <main className="page d-flex flex-column gap-3" id="main">
        <h1 className="m-0">{t('title')}</h1>
        {isGone && (
          <p role="alert" className="quiet-box m-0">
            {t('gone')} {!asker.account && <Link href="/sign-in">{t('toSignIn')}</Link>}
          </p>
        )}
        <section aria-labelledby="received">
          <h2 id="received">{t('received')}</h2>
          <ReceivedList grants={received} mayDecline={asker.account !== null} />
        </section>
        {asker.account && (
          <section aria-labelledby="given">
            <h2 id="given">{t('given')}</h2>
            <GivenList grants={await grantsBy(asker.account)} />
            <h3 className="mt-3 h6">{t('giveMore')}</h3>
            <GrantForm
              collections={await listCollections(asker.account)}
              bases={await ownBases(asker.account)}
            />
          </section>
        )}
      </main>
    </>
  );
}
