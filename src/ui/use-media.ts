'use client';

import { useSyncExternalStore } from 'react';

/** Whether a media query holds; it does not where there is no window. */
export const useMedia = (media: string): boolean =>
  useSyncExternalStore(
    (tell) => {
      const query = window.matchMedia(media);
      query.addEventListener('change', tell);
      return () => query.removeEventListener('change', tell);
    },
    () => window.matchMedia(media).matches,
    () => false,
  );
