'use client';

import { useState } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';
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
      <Modal show={open} size="lg" onHide={() => setOpen(false)} aria-labelledby="keys-title">
        <Modal.Header>
          <h2 className="m-0" id="keys-title">
            {t('title')}
          </h2>
          <Button variant="plain" className="ms-auto" onClick={() => setOpen(false)}>
            {t('close')}
          </Button>
        </Modal.Header>
        <Modal.Body className="key-sheet">
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
        </Modal.Body>
      </Modal>
    </>
  );
}
