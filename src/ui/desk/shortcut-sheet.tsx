'use client';

import { useState } from 'react';
import { Dialog } from '../dialog/dialog';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { useShortcuts } from '../use-shortcuts';

/** All keys of the Desk, by what they are for. */
const KEYS = {
  stepping: [
    ['forward', '→'],
    ['back', '←'],
    ['otherMove', '↑ ↓'],
    ['start', 'Home'],
    ['end', 'End'],
    ['turningPoint', 'T'],
    ['ownError', 'M'],
    ['noted', 'N'],
    ['leaveLine', 'Esc'],
    ['flip', 'F'],
    ['run', 'P'],
  ],
  writing: [
    ['move', '/'],
    ['after', 'C'],
    ['before', 'Shift+C'],
    ['lesson', 'L'],
    ['signs', '! ? = o'],
    ['draw', 'D'],
    ['up', 'Shift+↑'],
    ['down', 'Shift+↓'],
    ['mainLine', 'Shift+Home'],
    ['deleteFrom', 'Del'],
    ['deleteVariation', 'Shift+Del'],
    ['undo', 'Ctrl+Z'],
    ['redo', 'Ctrl+Shift+Z'],
    ['paste', 'Ctrl+V'],
  ],
  engine: [
    ['think', 'E'],
    ['threat', 'X'],
    ['doubt', 'I'],
    ['sweep', 'S'],
    ['help', 'H'],
  ],
} as const;

/** The sheet of keys, opened by its button or its key. */
export function ShortcutSheet() {
  const t = useTranslations('shortcuts');
  const [open, setOpen] = useState(false);
  useShortcuts({ h: () => setOpen((shown) => !shown) });
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
          {(Object.keys(KEYS) as (keyof typeof KEYS)[]).map((group) => (
            <section key={group} aria-label={t(`groups.${group}`)}>
              <h3>{t(`groups.${group}`)}</h3>
              <dl>
                {KEYS[group].map(([name, key]) => (
                  <div key={name}>
                    <dt>
                      <kbd>{key}</kbd>
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
