import type { ImportStatus } from '@/contract/imports';
import { queueImport } from '@/server/imports';

/** An import that is queued; @throws Error when it is refused */
export async function queued(...args: Parameters<typeof queueImport>): Promise<ImportStatus> {
  const status = await queueImport(...args);
  if (typeof status === 'string') throw new Error(status);
  return status;
}
