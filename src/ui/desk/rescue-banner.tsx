'use client';

import { useState } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { writeOwnFormat } from '@/core/notation/own-format';
import type { SaveState } from './autosave';
import { useDesk, useDeskStore } from './desk-store';

/** The server does not take what was written: it is offered for rescue, so that nothing is lost. */
export function RescueBanner({ saveState }: { saveState: SaveState }) {
  const t = useTranslations('rescue');
  const store = useDeskStore();
  const refused = useDesk((state) => state.refused);
  const [copied, setCopied] = useState(false);
  if (saveState !== 'refused' && saveState !== 'failed') return null;
  // the code is there already: it is needed when the server is not
  const text = () => writeOwnFormat(store.getState().view.record);
  const download = (): void => {
    const { text: body, extension } = text();
    const link = document.createElement('a');
    link.href = URL.createObjectURL(new Blob([body], { type: 'text/plain' }));
    link.download = `bektra.${extension}`;
    link.click();
    setTimeout(() => URL.revokeObjectURL(link.href), 1000);
  };
  return (
    <div className="line-banner flex-wrap" role="alert">
      <span>
        {saveState === 'refused' ? t('refused') : t('unreachable')}
        {refused && (
          <span className="soft small text-break"> {t('reason', { reason: refused })}</span>
        )}
      </span>
      <Button
        variant="plain"
        onClick={() => void navigator.clipboard.writeText(text().text).then(() => setCopied(true))}
      >
        {copied ? t('copied') : t('copy')}
      </Button>
      <Button variant="plain" onClick={download}>
        {t('download')}
      </Button>
      {saveState === 'refused' && (
        <Button variant="seal" onClick={() => store.getState().takeBackUnsaved()}>
          {t('takeBack')}
        </Button>
      )}
    </div>
  );
}
