'use client';

import Link from 'next/link';
import { useState } from 'react';
import { useTranslations } from 'next-intl';
import Toast from 'react-bootstrap/Toast';
import ToastContainer from 'react-bootstrap/ToastContainer';
import { findStudy, type Study } from '@/contract/studies';
import { call } from '../call';
import { useServerEvents } from '../server-events';

/** Tells, on whatever page one is, when a deeper look at a position is done. */
export function StudyNews() {
  const t = useTranslations('studies');
  const [news, setNews] = useState<readonly Study[]>([]);
  useServerEvents(
    (event) => {
      if (event.type !== 'study' || !event.done) return;
      void call(findStudy, { id: event.id })
        .then((study) =>
          setNews((before) => [...before.filter(({ id }) => id !== study.id), study]),
        )
        .catch(() => undefined);
    },
    () => undefined,
  );
  const close = (id: number): void => setNews((before) => before.filter((one) => one.id !== id));
  return (
    <ToastContainer position="bottom-start" className="p-3 position-fixed">
      {news.map(({ id, engine, state, gameId, position }) => (
        <Toast key={id} onClose={() => close(id)}>
          <Toast.Body className="d-flex align-items-start gap-2">
            <span className="flex-grow-1">
              {t(state === 'failed' ? 'newsFailed' : 'news', {
                name: engine ?? t('own'),
                ply: position.moves.length,
              })}{' '}
              <Link href={`/games/${gameId}?node=${position.node}`} onClick={() => close(id)}>
                {t('look')}
              </Link>
            </span>
            <button
              type="button"
              className="btn-close"
              aria-label={t('close')}
              onClick={() => close(id)}
            />
          </Toast.Body>
        </Toast>
      ))}
    </ToastContainer>
  );
}
