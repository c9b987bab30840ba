'use client';

import { useLocale } from 'next-intl';
import { readOpening } from '@/core/openings/opening';

/** An opening in the language of the interface, behind its code. @param text as it is stored */
export function OpeningName({ text }: { text: string }) {
  const locale = useLocale();
  const { code, name, japanese } = readOpening(text);
  const shown = locale === 'ja' ? japanese : name;
  return (
    <span title={shown}>
      {code !== '' && <span className="soft">{code} </span>}
      {shown}
    </span>
  );
}
