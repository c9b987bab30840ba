'use client';

import { useState } from 'react';
import { useTranslations } from 'next-intl';
import Form from 'react-bootstrap/Form';
import { readSpan, spanText } from '@/contract/game-filter';

const FOUR_DIGITS = /^\d{1,4}$/;

/** Two whole numbers of up to four digits, either of which may be open, as `from..to`; another value from elsewhere wants another key. */
export function SpanField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string | undefined;
  onChange(value: string | undefined): void;
}) {
  const t = useTranslations('base');
  const known = readSpan(value ?? '..');
  const [ends, setEnds] = useState([known.from ?? '', known.to ?? '']);
  const isRight = ends.every((end) => end === '' || FOUR_DIGITS.test(end));
  const keep = (): void => {
    const [from, to] = ends;
    if (isRight) onChange(spanText({ from: from || null, to: to || null }));
  };
  return (
    <div role="group" aria-label={label} className="span-field">
      <span>{label}</span>
      {[0, 1].map((index) => (
        <Form.Control
          key={index}
          size="sm"
          inputMode="numeric"
          isInvalid={!isRight}
          aria-label={t(index === 0 ? 'filter.from' : 'filter.to', { what: label })}
          value={ends[index]}
          onChange={({ target }) => setEnds(ends.with(index, target.value.trim()))}
          onBlur={keep}
          onKeyDown={({ key }) => key === 'Enter' && keep()}
        />
      ))}
    </div>
  );
}
