import '@fontsource-variable/source-sans-3/index.css';
import '@fontsource-variable/noto-sans-jp/index.css';
import '@fontsource-variable/newsreader/index.css';
import '@fontsource-variable/newsreader/wght-italic.css';
import './global.scss';
import type { Metadata } from 'next';
import { NextIntlClientProvider } from 'next-intl';
import { getLocale, getTranslations } from 'next-intl/server';
import type { ReactNode } from 'react';
import { DEMO_OWNER_ID } from '@/server/owner';
import { AccountProvider, type ShownAccount } from '@/ui/account/account';
import { Providers } from '@/ui/shell/providers';
import { visitor } from './visit';

export async function generateMetadata(): Promise<Metadata> {
  const t = await getTranslations('shell');
  return { title: { default: 'Bektra', template: '%s · Bektra' }, description: t('description') };
}

/** Who is signed in; nobody, where the database can't say: pages then tell of it in their own words. */
async function shownAccount(): Promise<ShownAccount | null> {
  const { account } = await visitor().catch(() => ({ account: null }));
  return account && { name: account.name, isDemo: account.id === DEMO_OWNER_ID };
}

export default async function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang={await getLocale()} suppressHydrationWarning>
      <body>
        <NextIntlClientProvider>
          <AccountProvider value={await shownAccount()}>
            <Providers>{children}</Providers>
          </AccountProvider>
        </NextIntlClientProvider>
      </body>
    </html>
  );
}
