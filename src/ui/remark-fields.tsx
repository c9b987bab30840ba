'use client';

import { useTranslations } from 'next-intl';
import Form from 'react-bootstrap/Form';
import type { GameKind } from '@/core/game/ruleset';
import { centipawnsOf, REMARK_FORMS, type Remarks } from '@/core/review/remarks';

const LEAST = [2, 4, 6, 9, 12, 18, 24] as const;
const LINE_MOVES = [0, 2, 4, 8, 12, 20] as const;

/** How what a sweep finds is put beside the moves. */
export function RemarkFields({
  kind,
  value,
  onChange,
}: {
  /** Null: of games of both kinds, in which a pawn is not worth the same. */
  kind: GameKind | null;
  value: Remarks;
  onChange(remarks: Remarks): void;
}) {
  const t = useTranslations('remarks');
  const set = (change: Partial<Remarks>): void => onChange({ ...value, ...change });
  return (
    <fieldset className="d-flex flex-column gap-2">
      <legend>{t('title')}</legend>
      <Form.Group controlId="remark-least">
        <Form.Label>{t('least')}</Form.Label>
        <Form.Select
          value={value.least}
          onChange={(event) => set({ least: Number(event.target.value) })}
        >
          {LEAST.map((points) => (
            <option key={points} value={points}>
              {kind
                ? t('points', { points, pawns: (centipawnsOf(kind, points) / 100).toFixed(2) })
                : t('pointsAlone', { points })}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <Form.Group controlId="remark-line">
        <Form.Label>{t('line')}</Form.Label>
        <Form.Select
          value={value.lineMoves}
          onChange={(event) => set({ lineMoves: Number(event.target.value) })}
        >
          {LINE_MOVES.map((moves) => (
            <option key={moves} value={moves}>
              {t('halfMoves', { moves })}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <Form.Group controlId="remark-form">
        <Form.Label>{t('form')}</Form.Label>
        <Form.Select
          value={value.form}
          onChange={(event) => set({ form: event.target.value as Remarks['form'] })}
        >
          {REMARK_FORMS.map((form) => (
            <option key={form} value={form}>
              {t(`forms.${form}`)}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <Form.Check
        id="remark-evaluations"
        label={t('evaluations')}
        checked={value.evaluations}
        onChange={(event) => set({ evaluations: event.target.checked })}
      />
    </fieldset>
  );
}
