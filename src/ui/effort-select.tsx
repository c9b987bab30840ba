'use client';

import { useTranslations } from 'next-intl';
import Form from 'react-bootstrap/Form';
import { settingsText, SWEEP_PRESETS } from '@/core/review/sweep-settings';
import { useSaySettings } from './use-say-settings';

/** What there is to choose from, as the settings' own text. */
const CHOICES = {
  nodes: Object.values(SWEEP_PRESETS).map((nodes) => settingsText({ average: { nodes } })),
  milliseconds: [1000, 3000, 10_000].map((milliseconds) =>
    settingsText({ average: { milliseconds } }),
  ),
} as const;
const GROUPS = ['nodes', 'milliseconds'] as const;

/** How long a sweep is to look. @param value settings as text */
export function EffortSelect({ value, onChange }: { value: string; onChange(text: string): void }) {
  const t = useTranslations('sweep');
  const say = useSaySettings();
  const isListed = GROUPS.some((name) => CHOICES[name].includes(value));
  return (
    <Form.Select
      value={value}
      style={{ width: 'auto' }}
      aria-label={t('limit')}
      title={t('limit')}
      onChange={(event) => onChange(event.target.value)}
    >
      {!isListed && <option value={value}>{say(value)}</option>}
      {GROUPS.map((name) => (
        <optgroup key={name} label={t(`groups.${name}`)}>
          {CHOICES[name].map((choice) => (
            <option key={choice} value={choice}>
              {say(choice)}
            </option>
          ))}
        </optgroup>
      ))}
    </Form.Select>
  );
}
