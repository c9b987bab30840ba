'use client';

import { useState } from 'react';
import { useTranslations } from 'next-intl';
import { toggleMark } from '@/core/game/edits';
import type { Mark, MarkColour } from '@/core/game/tree';
import { useDesk, useDeskStore } from './desk-store';

const LETTERS: Record<string, MarkColour> = { g: 'green', r: 'red', y: 'yellow', b: 'blue' };

/** Marks entered by keyboard: a square, or two for an arrow, after a letter for the colour: `g e4`, `e2e4`. */
export function MarkField() {
  const t = useTranslations('tools');
  const store = useDeskStore();
  const drawing = useDesk((state) => state.drawing) ?? 'green';
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState(false);
  const enter = (): void => {
    const { view, node, edit } = store.getState();
    const mark = readMark(text, view.ruleset.squareNames, drawing);
    setWrong(mark === null);
    if (!mark) return;
    edit(toggleMark(view.record.tree, node, mark));
    setText('');
  };
  return (
    <form
      className="px-3 mb-2"
      onSubmit={(event) => {
        event.preventDefault();
        enter();
      }}
    >
      <input
        className="form-control form-control-sm"
        value={text}
        aria-label={t('markField')}
        aria-invalid={wrong}
        placeholder={t('markPlaceholder')}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => event.key !== 'Escape' && event.stopPropagation()}
      />
      {wrong && (
        <p role="alert" className="small mb-0">
          {t('noMark')}
        </p>
      )}
    </form>
  );
}

function readMark(
  text: string,
  squareNames: readonly string[],
  otherwise: MarkColour,
): Mark | null {
  const match = /^(?:([gryb])\s+)?([a-z0-9]{2})[-\s]?([a-z0-9]{2})?$/.exec(
    text.trim().toLowerCase(),
  );
  if (!match) return null;
  const from = squareNames.indexOf(match[2]!);
  const to = match[3] === undefined ? undefined : squareNames.indexOf(match[3]);
  if (from < 0 || (to !== undefined && to < 0)) return null;
  const colour = LETTERS[match[1] ?? ''] ?? otherwise;
  return to === undefined ? { colour, square: from } : { colour, square: from, to };
}
