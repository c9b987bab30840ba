'use client';

import { useEffect, useState } from 'react';
import { usePathname } from 'next/navigation';
import { Desk, type DeskProps } from './desk';

/** A Desk of a position that is not stored; from the first thing entered on, its address is that of a stored game. */
export function PositionDesk(props: DeskProps) {
  const path = usePathname();
  // on the way back to what was stored since, this page comes again, and knows nothing of what was entered
  const [isStored] = useState(path !== '/desk');
  useEffect(() => {
    if (isStored) window.location.reload();
  }, [isStored]);
  return isStored ? null : <Desk {...props} />;
}
