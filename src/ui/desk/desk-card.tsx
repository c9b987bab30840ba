'use client';

import { useRef, useState, type ReactNode, type Ref } from 'react';
import { flushSync } from 'react-dom';
import { useTranslations } from 'next-intl';
import { useSortable } from '@dnd-kit/sortable';
import Button from 'react-bootstrap/Button';
import { ArrowsAngleContract, ArrowsAngleExpand, GripVertical } from 'react-bootstrap-icons';
import type { CardName } from './card-names';
import { movedTo, useCardOrder, useOpenCard } from './card-order';

interface DeskCardProps {
  name: CardName;
  title: string;
  /** One line that answers for the position on the board. */
  headline: ReactNode;
  /** What stands beside the title of an open card. */
  tools?: ReactNode;
  /** It may take the sheet's place. */
  spreads?: boolean;
  className?: string;
  bodyRef?: Ref<HTMLDivElement>;
  children: ReactNode;
}

/** A panel beside the sheet: folded up it is its headline, open it shows the rest; it is dragged, or moved with the arrow keys, by its grip. */
export function DeskCard({
  name,
  title,
  headline,
  tools,
  spreads = false,
  className = '',
  bodyRef,
  children,
}: DeskCardProps) {
  const t = useTranslations('cards');
  const { isOpen, toggle } = useOpenCard(name);
  const isSpread = useCardOrder(({ spread }) => spread === name);
  const set = useCardOrder((state) => state.set);
  const { setNodeRef, setActivatorNodeRef, listeners, transform, transition, isDragging } =
    useSortable({ id: name });
  const bodyId = `card-${name}`;
  return (
    <section
      ref={setNodeRef}
      className={`card-box ${className} ${isSpread ? 'is-spread' : ''} ${isDragging ? 'is-dragged' : ''}`}
      style={
        transform
          ? { transform: `translateY(${transform.y}px)`, transition: transition ?? undefined }
          : undefined
      }
      aria-label={title}
      data-card={name}
    >
      <header>
        <Grip name={name} title={title} listeners={listeners} gripRef={setActivatorNodeRef} />
        <h2 className="m-0">
          <button
            type="button"
            className="card-title"
            aria-expanded={isOpen}
            aria-controls={bodyId}
            onClick={toggle}
          >
            {title}
            {!isOpen && <span className="headline">{headline}</span>}
          </button>
        </h2>
        {isOpen && (
          <div className="tools">
            {tools}
            {spreads && (
              <Button
                variant="plain"
                className="spread-button"
                aria-pressed={isSpread}
                aria-label={t(isSpread ? 'gather' : 'spread')}
                title={t(isSpread ? 'gather' : 'spread')}
                onClick={() => set({ spread: isSpread ? null : name })}
              >
                {isSpread ? (
                  <ArrowsAngleContract aria-hidden="true" />
                ) : (
                  <ArrowsAngleExpand aria-hidden="true" />
                )}
              </Button>
            )}
          </div>
        )}
      </header>
      <div id={bodyId} ref={bodyRef} className="card-body" hidden={!isOpen}>
        {isOpen && children}
      </div>
    </section>
  );
}

type Listeners = ReturnType<typeof useSortable>['listeners'];

const STEPS: Readonly<Record<string, number>> = { ArrowUp: -1, ArrowDown: 1 };

/** What a card is moved by. */
function Grip({
  name,
  title,
  listeners,
  gripRef,
}: {
  name: CardName;
  title: string;
  listeners: Listeners;
  gripRef: (element: HTMLElement | null) => void;
}) {
  const t = useTranslations('cards');
  const button = useRef<HTMLButtonElement>(null);
  const { order, set } = useCardOrder();
  const [place, setPlace] = useState<number | null>(null);
  return (
    <>
      <button
        ref={(element) => {
          button.current = element;
          gripRef(element);
        }}
        type="button"
        className="grip"
        aria-label={t('move', { card: title })}
        title={t('moveTitle')}
        {...listeners}
        onKeyDown={(event) => {
          const step = STEPS[event.key];
          if (!step) return;
          // the Desk's own arrow keys go through the game
          event.preventDefault();
          event.stopPropagation();
          event.nativeEvent.stopImmediatePropagation();
          const next = movedTo(order, name, order.indexOf(name) + step);
          flushSync(() => {
            set({ order: next });
            setPlace(next.indexOf(name) + 1);
          });
          // an element that is put elsewhere loses the focus
          button.current?.focus();
        }}
        onBlur={() => setPlace(null)}
      >
        <GripVertical aria-hidden="true" />
      </button>
      <span className="visually-hidden" aria-live="polite">
        {place !== null && t('moved', { card: title, place, of: order.length })}
      </span>
    </>
  );
}
