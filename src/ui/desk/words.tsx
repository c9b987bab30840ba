'use client';

import { useEffect, useRef, useState } from 'react';
import { useTranslations } from 'next-intl';
import { writeWords } from '@/core/game/edits';
import type { GameNode } from '@/core/game/tree';
import { useDeskStore, useIsCurrent, type Writing } from './desk-store';

/** Words at a move, written where they stand: a click or the key opens them, leaving keeps them. */
export function Words({
  node,
  field,
  writing,
  inline = false,
}: {
  node: GameNode;
  field: Writing['field'];
  /** What is being written, wherever it is. */
  writing: Writing | null;
  /** In the running text of a variation. */
  inline?: boolean;
}) {
  const t = useTranslations('words');
  const store = useDeskStore();
  const open = writing?.node === node.id && writing.field === field;
  const words = node[field];
  const isCurrent = useIsCurrent(node.id);
  if (open) return <WordsField node={node} field={field} />;
  if (words === undefined) return null;
  return (
    <>
      <button
        type="button"
        className={`words ${field === 'lesson' ? 'lesson' : ''} ${inline ? 'd-inline' : 'd-block'}`}
        title={t('edit')}
        // the key that writes opens them too
        tabIndex={isCurrent ? 0 : -1}
        onClick={() => store.getState().write({ node: node.id, field })}
      >
        {field === 'lesson' && <span className="lesson-name">{t('lesson')}</span>}
        {words}
      </button>
      {inline && ' '}
    </>
  );
}

function WordsField({ node, field }: { node: GameNode; field: Writing['field'] }) {
  const t = useTranslations('words');
  const store = useDeskStore();
  const [text, setText] = useState(node[field] ?? '');
  const area = useRef<HTMLTextAreaElement>(null);
  const latest = useRef({ text, closed: false });
  useEffect(() => {
    latest.current.text = text;
    const element = area.current;
    if (!element) return;
    element.style.height = 'auto';
    element.style.height = `${element.scrollHeight + 2}px`;
  }, [text]);
  useEffect(() => {
    const element = area.current;
    element?.focus();
    element?.setSelectionRange(element.value.length, element.value.length);
  }, []);
  const close = (keep: boolean): void => {
    const { view, edit, write, writing, node: shown } = store.getState();
    if (keep && !latest.current.closed && view.has(node.id)) {
      const { steps } = writeWords(view.record.tree, node.id, field, latest.current.text);
      if (steps.length > 0) edit({ steps, node: shown });
    }
    latest.current.closed = true;
    if (writing?.node === node.id && writing.field === field) write(null);
  };
  return (
    <textarea
      ref={area}
      className="form-control words-field"
      rows={1}
      value={text}
      maxLength={field === 'lesson' ? 200 : 100_000}
      aria-label={t(`fields.${field}`)}
      placeholder={t(`placeholders.${field}`)}
      onChange={(event) =>
        setText(field === 'lesson' ? event.target.value.replace(/\n/g, ' ') : event.target.value)
      }
      onBlur={() => close(true)}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Escape') close(false);
        else if (event.key === 'Enter' && (field === 'lesson' || event.ctrlKey || event.metaKey)) {
          event.preventDefault();
          close(true);
        }
      }}
    />
  );
}
