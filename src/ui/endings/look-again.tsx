'use client';

import { useEffect } from 'react';
import { useRouter } from 'next/navigation';

/** How soon a page that waits for something is looked at again. */
const AGAIN_MS = 3000;

/** Has the page made anew again and again, for as long as it stands in it. */
export function LookAgain() {
  const router = useRouter();
  useEffect(() => {
    const timer = setInterval(() => router.refresh(), AGAIN_MS);
    return () => clearInterval(timer);
  }, [router]);
  return null;
}
