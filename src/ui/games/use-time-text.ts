'use client';

import { useTranslations } from 'next-intl';

/** How long something takes yet, roughly, in words. @returns of seconds */
export function useTimeText(): (seconds: number) => string {
  const t = useTranslations('batch');
  return (seconds) => {
    const minutes = Math.round(seconds / 60);
    if (minutes < 2) return t('minute');
    if (minutes < 60) return t('minutes', { minutes });
    return t('hours', { hours: Math.floor(minutes / 60), minutes: minutes % 60 });
  };
}
