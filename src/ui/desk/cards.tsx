'use client';

import { useEffect, type ComponentType } from 'react';
import { useTranslations } from 'next-intl';
import {
  closestCenter,
  DndContext,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { BaseCard } from './base-card';
import { CalculationCard } from './calculation-card';
import { CandidatesCard } from './candidates-card';
import type { CardName } from './card-names';
import { movedTo, useCardOrder } from './card-order';
import { EndingCard } from './ending-card';
import { GameCard } from './game-card';
import { LinesCard } from './lines-card';
import { PositionCard } from './position-card';
import { PreparationCard } from './preparation-card';
import { ReviewCard } from './review-card';
import { useDeskShortcuts } from './shortcuts';
import { StudiesCard } from './studies-card';

const CARD: Record<CardName, ComponentType> = {
  lines: LinesCard,
  base: BaseCard,
  preparation: PreparationCard,
  review: ReviewCard,
  ending: EndingCard,
  candidates: CandidatesCard,
  studies: StudiesCard,
  calculation: CalculationCard,
  position: PositionCard,
  game: GameCard,
};

/** What follows the board beside the sheet, in the order that a person has chosen. */
export function Cards() {
  const t = useTranslations('desk');
  const { order, set } = useCardOrder();
  // a press that goes nowhere is a click
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  useEffect(() => {
    void useCardOrder.persist.rehydrate();
    return () => useCardOrder.getState().set({ spread: null });
  }, []);
  useDeskShortcuts({
    card: (_, key) => {
      // the tenth by 0, as the keys lie
      const name = order[(Number(key) + 9) % 10];
      const title = document.querySelector<HTMLElement>(`[data-card="${name}"] .card-title`);
      title?.click();
      title?.focus();
      title?.closest('section')?.scrollIntoView({ block: 'nearest' });
    },
  });
  const drop = ({ active, over }: DragEndEvent): void => {
    if (over)
      set({ order: movedTo(order, active.id as CardName, order.indexOf(over.id as CardName)) });
  };
  return (
    <DndContext
      id="cards"
      sensors={sensors}
      collisionDetection={closestCenter}
      accessibility={{ announcements: SILENT, screenReaderInstructions: { draggable: '' } }}
      onDragEnd={drop}
    >
      <SortableContext items={[...order]} strategy={verticalListSortingStrategy}>
        <section className="cards" aria-label={t('cards')}>
          {order.map((name) => {
            const Card = CARD[name];
            return <Card key={name} />;
          })}
        </section>
      </SortableContext>
    </DndContext>
  );
}

/** Those who listen move cards by the keys of the grip, which tells them. */
const SILENT = {
  onDragStart: () => undefined,
  onDragOver: () => undefined,
  onDragEnd: () => undefined,
  onDragCancel: () => undefined,
};
