'use client';

import dynamic from 'next/dynamic';

/** A dialog, whose code comes with the first one that is opened. */
export const Dialog = dynamic(() => import('./modal-dialog'), { ssr: false });
