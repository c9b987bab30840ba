import Link from 'next/link';
import { getTranslations } from 'next-intl/server';
import { Masthead } from '@/ui/shell/masthead';

export default async function NotFound() {
  const t = await getTranslations('notFound');
  return (
    <>
      <Masthead />
      <main className="page" id="main">
        <h1>{t('title')}</h1>
        <p>{t('text')}</p>
        <Link href="/">{t('back')}</Link>
      </main>
    </>
  );
}
