'use client';

import Link from 'next/link';
import { usePathname, useRouter } from 'next/navigation';
import { useLocale, useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { MoonStars, Sun, Translate } from 'react-bootstrap-icons';
import type { ReactNode } from 'react';
import { useAccount } from '../account/account';
import { AccountMenu } from '../account/account-menu';
import { LANGUAGE_COOKIE } from '../language';
import { usePreferences } from '../preferences';
import { useDarkMode } from './theme';

/** Name, places and the light; `children`: what the page has to say on the right. */
export function Masthead({ children }: { children?: ReactNode }) {
  const t = useTranslations('shell');
  const path = usePathname();
  const dark = useDarkMode();
  const set = usePreferences((state) => state.set);
  const account = useAccount();
  const places = [
    { href: '/', name: t('games'), current: path === '/' },
    { href: '/players', name: t('players'), current: path.startsWith('/players') },
    { href: '/bases', name: t('bases'), current: path.startsWith('/bases') },
    {
      href: '/preparation',
      name: t('preparation'),
      current: path === '/preparation',
    },
    { href: '/lessons', name: t('lessons'), current: path === '/lessons' },
    { href: '/endings', name: t('endings'), current: path === '/endings' },
    { href: '/games/new', name: t('enter'), current: path === '/games/new' },
    { href: '/setup', name: t('setup'), current: path === '/setup' },
  ];
  return (
    <>
      <a className="skip-link" href="#main">
        {t('skip')}
      </a>
      <header className="masthead">
        <Link href="/" className="wordmark">
          Bektra
        </Link>
        {account && (
          <nav aria-label={t('places')}>
            {places.map(({ href, name, current }) => (
              <Link key={href} href={href} aria-current={current ? 'page' : undefined}>
                {name}
              </Link>
            ))}
          </nav>
        )}
        <div className="end">
          {children}
          <AccountMenu />
          <LanguageButton />
          <Button
            variant="plain"
            aria-label={dark ? t('light') : t('dark')}
            title={dark ? t('light') : t('dark')}
            onClick={() => set({ theme: dark ? 'light' : 'dark' })}
          >
            {dark ? <Sun /> : <MoonStars />}
          </Button>
        </div>
      </header>
    </>
  );
}

const YEAR_SECONDS = 365 * 24 * 3600;

/** Goes over to the other language; the choice is kept for a year. */
function LanguageButton() {
  const t = useTranslations('shell');
  const router = useRouter();
  const other = useLocale() === 'ja' ? 'en' : 'ja';
  return (
    <Button
      variant="plain"
      lang={other}
      aria-label={t('language')}
      title={t('language')}
      onClick={() => {
        document.cookie = `${LANGUAGE_COOKIE}=${other}; path=/; max-age=${YEAR_SECONDS}; samesite=lax`;
        router.refresh();
      }}
    >
      <Translate aria-hidden="true" />
    </Button>
  );
}
