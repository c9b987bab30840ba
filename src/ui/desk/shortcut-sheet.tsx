'use client';

import { useState } from 'react';
import { Dialog } from '../dialog/dialog';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { SHORTCUTS, shownKey, useDeskShortcuts, type ShortcutName } from './shortcuts';

/** The sheet of keys, opened by its button or its key. */
export function ShortcutSheet() {
  const t = useTranslations('shortcuts');
  const [open, setOpen] = useState(false);
  useDeskShortcuts({ help: () => setOpen((shown) => !shown) });
  return (
    <>
      <Button variant="plain" onClick={() => setOpen(true)}>
        {t('open')}
      </Button>
      {open && (
        <Dialog
          size="lg"
          title={t('title')}
          closeText={t('close')}
          className="key-sheet"
          onClose={() => setOpen(false)}
        >
          {(Object.keys(SHORTCUTS) as (keyof typeof SHORTCUTS)[]).map((group) => (
            <section key={group} aria-label={t(`groups.${group}`)}>
              <h3>{t(`groups.${group}`)}</h3>
              <dl>
                {(Object.keys(SHORTCUTS[group]) as ShortcutName[]).map((name) => (
                  <div key={name}>
                    <dt>
                      <kbd>{shownKey(name)}</kbd>
                    </dt>
                    <dd>{t(`keys.${name}`)}</dd>
                  </div>
                ))}
              </dl>
            </section>
          ))}
        </Dialog>
      )}
    </>
  );
}
