'use client';

import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import { stopImport, type ImportStatus } from '@/contract/imports';
import { call, succeeds } from '../call';
import { ImportResult, isOpen } from '../games/import-result';
import { useServerEvents } from '../server-events';

/** What becomes of files that were sent for bases: those under way, and the latest that are over. */
export function BaseImports({ imports }: { imports: readonly ImportStatus[] }) {
  const t = useTranslations('bases');
  const router = useRouter();
  useServerEvents(
    (event) => {
      if (event.type === 'import') router.refresh();
    },
    () => router.refresh(),
  );
  const open = imports.filter(isOpen);
  const over = imports.filter((one) => !isOpen(one));
  return (
    <>
      {open.map((status) => (
        <ImportResult
          key={status.id}
          name={status.name}
          status={status}
          onCancel={() => void succeeds(call(stopImport, { id: status.id }))}
        />
      ))}
      {over.length > 0 && (
        <details>
          <summary className="soft">{t('imports', { count: over.length })}</summary>
          {over.map((status) => (
            <ImportResult key={status.id} name={status.name} status={status} />
          ))}
        </details>
      )}
    </>
  );
}
