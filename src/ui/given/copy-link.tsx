'use client';

import { useState } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';

/** A link in full, to be taken along. */
export function CopyLink({ link }: { link: string }) {
  const t = useTranslations('given');
  const [copied, setCopied] = useState(false);
  const copy = async (): Promise<void> => {
    await navigator.clipboard.writeText(`${window.location.origin}/shared/${link}`);
    setCopied(true);
  };
  return (
    <>
      <a href={`/shared/${link}`} className="text-break">{`/shared/${link}`}</a>{' '}
      <Button variant="plain" size="sm" onClick={() => void copy()}>
        {copied ? t('copied') : t('copy')}
      </Button>
    </>
  );
}
