import type { Metadata } from 'next';
import { getTranslations } from 'next-intl/server';
import { countGames } from '@/server/library';
import { DEMO_OWNER_ID } from '@/server/owner';
import { ChangePassword, CloseAccount } from '@/ui/account/account-settings';
import { Masthead } from '@/ui/shell/masthead';
import { signedIn } from '../visit';

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('account'))('title') };
}

/** What belongs to an account as a whole: its password, all that is in it as one file, and its end. */
export default async function AccountPage() {
  const t = await getTranslations('account');
  const owner = await signedIn();
  const isDemo = owner.id === DEMO_OWNER_ID;
  return (
    <>
      <Masthead />
      <main className="page d-flex flex-column gap-3" id="main">
        <div className="d-flex align-items-baseline gap-3">
          <h1 className="m-0">{t('title')}</h1>
          <span className="soft">{owner.name}</span>
        </div>
        <section className="quiet-box" aria-labelledby="take-out">
          <h2 id="take-out">{t('takeOut')}</h2>
          <p>{t('takeOutText', { games: await countGames(owner) })}</p>
          <a className="btn btn-plain" href="/api/account/archive" download>
            {t('takeOut')}
          </a>
        </section>
        {isDemo ? (
          <p className="soft">{t('demoStays')}</p>
        ) : (
          <div className="side-by-side">
            <section className="quiet-box" aria-labelledby="password">
              <h2 id="password">{t('changeTitle')}</h2>
              <ChangePassword />
            </section>
            <section className="quiet-box" aria-labelledby="close">
              <h2 id="close">{t('closeTitle')}</h2>
              <p>{t('closeText')}</p>
              <CloseAccount />
            </section>
          </div>
        )}
      </main>
    </>
  );
}
