import '@fontsource-variable/source-sans-3/index.css';
import '@fontsource-variable/noto-sans-jp/index.css';
import '@fontsource-variable/newsreader/index.css';
import '@fontsource-variable/newsreader/wght-italic.css';
import './global.scss';
import type { Metadata } from 'next';
import { NextIntlClientProvider } from 'next-intl';
import { getLocale, getTranslations } from 'next-intl/server';
import type { ReactNode } from 'react';
import { Providers } from '@/ui/shell/providers';

export async function generateMetadata(): Promise<Metadata> {
  const t = await getTranslations('shell');
  return { title: { default: 'Bektra', template: '%s · Bektra' }, description: t('description') };
}

export default async function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang={await getLocale()} suppressHydrationWarning>
      <body>
        <NextIntlClientProvider>
          <Providers>{children}</Providers>
        </NextIntlClientProvider>
      </body>
    </html>
  );
}
