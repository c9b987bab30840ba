'use client';

import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { Masthead } from '@/ui/shell/masthead';

export default function ErrorPage({ reset }: { error: Error; reset: () => void }) {
  const t = useTranslations('error');
  return (
    <>
      <Masthead />
      <main className="page" id="main" role="alert">
        <h1>{t('title')}</h1>
        <p>{t('text')}</p>
        <Button variant="seal" onClick={reset}>
          {t('again')}
        </Button>
      </main>
    </>
  );
}
