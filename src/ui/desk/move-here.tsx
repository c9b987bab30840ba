'use client';

import type { ReactNode } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { PlusLg } from 'react-bootstrap-icons';
import { readLine } from '../move-text';
import { useShogiNotation } from '../preferences';
import { releaseAfterClick } from '../roving';
import { useCardPlace } from './card-place';
import { useDesk, useMay } from './desk-store';
import type { Preview } from './line-moves';
import { useMoveHere } from './use-move-here';

/** A move from what is on the board: it can be looked at, played on the board and put into the sheet. */
export function MoveHere({
  code,
  title,
  isStop,
  onPreview,
  children,
}: {
  /** UCI or USI. */
  code: string;
  /** What is said of it; null: what pressing it does. */
  title: string | null;
  /** Whether the tab key stops at it. */
  isStop: boolean;
  onPreview(preview: Preview | null): void;
  children?: ReactNode;
}) {
  const t = useTranslations('moveHere');
  const place = useCardPlace();
  const ruleset = useDesk(({ view }) => view.ruleset);
  const notation = useShogiNotation();
  const mayEdit = useMay('edit');
  const { play, insert } = useMoveHere(place);
  const [read] = readLine(ruleset, place.position, [code], null, notation);
  if (!read) return null;
  const show = (): void => onPreview({ position: read.position, move: read.move, text: read.text });
  const hide = (): void => onPreview(null);
  const into = t('insert', { move: read.text });
  return (
    <span className="text-nowrap">
      <button
        type="button"
        className="inline-move"
        tabIndex={isStop ? undefined : -1}
        title={title ?? t('play')}
        onMouseEnter={show}
        onMouseLeave={hide}
        onFocus={show}
        onBlur={hide}
        onClick={(event) => {
          releaseAfterClick(event);
          hide();
          play(code);
        }}
      >
        {read.text}
        {children}
      </button>
      {mayEdit && (
        <Button
          variant="plain"
          size="sm"
          className="insert"
          tabIndex={-1}
          aria-label={into}
          title={into}
          onClick={(event) => {
            releaseAfterClick(event);
            insert([code]);
          }}
        >
          <PlusLg aria-hidden="true" />
        </Button>
      )}
    </span>
  );
}
