import type { Metadata } from 'next';
import Link from 'next/link';
import { getTranslations } from 'next-intl/server';
import { readEndingsQuery } from '@/contract/own-endings';
import { listOwnEndings } from '@/server/own-endings';
import { LookAgain } from '@/ui/endings/look-again';
import { OwnEndings } from '@/ui/endings/own-endings';
import { Masthead } from '@/ui/shell/masthead';
import { signedIn } from '../visit';

export const dynamic = 'force-dynamic';

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('endings'))('title') };
}

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

/** The endings of one's own games, and what was made of them. */
export default async function EndingsPage({ searchParams }: Props) {
  const t = await getTranslations('endings');
  const owner = await signedIn();
  const endings = await listOwnEndings(owner);
  return (
    <>
      <Masthead />
      <main className="page d-flex flex-column gap-3" id="main">
        <div className="d-flex align-items-baseline gap-3">
          <h1 className="m-0">{t('title')}</h1>
          {endings && <span className="soft">{t('count', { count: endings.length })}</span>}
        </div>
        {owner.playerId === null ? (
          <p className="quiet-box soft">
            {t('nobody')} <Link href="/players">{t('players')}</Link>
          </p>
        ) : endings === null ? (
          <p className="quiet-box soft" role="status">
            {t('looking')}
            <LookAgain />
          </p>
        ) : endings.length === 0 ? (
          <p className="quiet-box soft">{t('none')}</p>
        ) : (
          <OwnEndings endings={endings} shown={readEndingsQuery(await searchParams)} />
        )}
      </main>
    </>
  );
}
