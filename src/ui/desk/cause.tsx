'use client';

import { useTranslations } from 'next-intl';
import { toggleCause } from '@/core/game/edits';
import { CAUSES, type GameNode } from '@/core/game/tree';
import { useDeskStore, useIsCurrent } from './desk-store';

/** What an error of one's own came from: one tap says it, another takes it back. */
export function CauseOf({ node }: { node: GameNode }) {
  const t = useTranslations('cause');
  const store = useDeskStore();
  const isCurrent = useIsCurrent(node.id);
  if (!isCurrent)
    return (
      node.cause && (
        <div>
          <span className="soft">{t('label')}</span> {t(`causes.${node.cause}`)}
        </div>
      )
    );
  return (
    <div className="causes" role="group" aria-label={t('ask')}>
      <span className="soft">{t('ask')}</span>
      {CAUSES.map((cause) => (
        <button
          key={cause}
          type="button"
          className={node.cause === cause ? 'cause chosen' : 'cause'}
          aria-pressed={node.cause === cause}
          onClick={() => {
            const { view, edit } = store.getState();
            edit(toggleCause(view.record.tree, node.id, cause));
          }}
        >
          {t(`causes.${cause}`)}
        </button>
      ))}
    </div>
  );
}
