'use client';

import { useEffect, useState } from 'react';

/** Whether the page has had nothing more urgent to do since the component was first shown. */
export function useIdle(): boolean {
  const [idle, setIdle] = useState(false);
  useEffect(() => {
    const handle = requestIdleCallback(() => setIdle(true), { timeout: 2000 });
    return () => cancelIdleCallback(handle);
  }, []);
  return idle;
}
