'use client';

import { useMemo, useState } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { ONE_SIDE } from '@/core/ask/game-looks';
import { variationsOf } from '@/core/ask/swept';
import type { Side } from '@/core/game/ruleset';
import type { Scope } from '@/core/review/sweep-settings';
import { useSideName } from '../side-name';
import { OverSelect, SweepChoices } from '../sweep-choices';
import { useReview } from './desk-review';
import { useDesk } from './desk-store';
import { useDeparture } from './use-departures';

/** What a sweep of the game on the Desk goes over, and how. */
export function DeskSweepChoices({
  effort,
  onEffort,
  onStart,
  onClose,
}: {
  /** Settings as text. */
  effort: string;
  onEffort(effort: string): void;
  onStart(scope: Scope): void;
  onClose(): void;
}) {
  const t = useTranslations('choices');
  const view = useDesk((state) => state.view);
  const node = useDesk((state) => state.node);
  const here = view.isMainLine(node) ? view.plyOf(node) + 1 : 1;
  const { ownSide } = useReview();
  const sideName = useSideName(view.ruleset);
  const last = view.line.length;
  const departure = useDeparture();
  const leftAt = departure?.ply ?? null;
  const [side, setSide] = useState<Side | null>(null);
  const [from, setFrom] = useState(1);
  const [to, setTo] = useState(last);
  const [over, setOver] = useState<Scope['over']>(undefined);
  const isRight = from >= 1 && from <= to && to <= last;
  const own = useMemo(
    () =>
      variationsOf(view.record.tree, { from, to }).reduce(
        (sum, { nodes, from: first }) => sum + nodes.length + 1 - first,
        0,
      ),
    [view, from, to],
  );
  const played = Math.max(0, to - from + 1);
  const moves = (over === 'variations' ? 0 : played) + (over === undefined ? 0 : own);
  const problem = !isRight
    ? t('wrong', { last })
    : over === 'variations' && own === 0
      ? t('noVariations')
      : null;
  return (
    <SweepChoices
      kind={view.ruleset.kind}
      effort={effort}
      moves={(side === null ? 1 : ONE_SIDE) * moves}
      problem={problem}
      onEffort={onEffort}
      onStart={() =>
        onStart({
          ...(side === null ? {} : { side }),
          ...(from > 1 ? { from } : {}),
          ...(to < last ? { to } : {}),
          ...(over ? { over } : {}),
        })
      }
      onClose={onClose}
    >
      <OverSelect value={over} onChange={setOver} />
      <Form.Group controlId="whose">
        <Form.Label>{t('whose')}</Form.Label>
        <Form.Select
          value={side ?? ''}
          onChange={(event) =>
            setSide(event.target.value === '' ? null : (Number(event.target.value) as Side))
          }
        >
          <option value="">{t('both')}</option>
          {([0, 1] as const).map((one) => (
            <option key={one} value={one}>
              {t(one === ownSide ? 'mine' : 'side', { side: sideName(one) })}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <div className="d-flex align-items-center gap-2 flex-wrap">
        {t('from')}
        <PlyField label={t('fromLabel')} value={from} most={last} onChange={setFrom} />
        {t('to')}
        <PlyField label={t('toLabel')} value={to} most={last} onChange={setTo} />
        <Button variant="plain" disabled={here > last} onClick={() => setFrom(here)}>
          {t('here')}
        </Button>
        {leftAt !== null && (
          <Button variant="plain" onClick={() => setFrom(leftAt)}>
            {t('leftBase', { base: departure!.base.name })}
          </Button>
        )}
      </div>
    </SweepChoices>
  );
}

function PlyField({
  label,
  value,
  most,
  onChange,
}: {
  label: string;
  value: number;
  most: number;
  onChange(ply: number): void;
}) {
  return (
    <Form.Control
      type="number"
      size="sm"
      className="ply-field"
      aria-label={label}
      min={1}
      max={most}
      value={value}
      onChange={(event) => onChange(Number(event.target.value))}
    />
  );
}
