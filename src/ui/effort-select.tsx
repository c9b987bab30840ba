'use client';

import { useTranslations } from 'next-intl';
import Form from 'react-bootstrap/Form';
import { settingsText, SWEEP_PRESETS } from '@/core/review/sweep-settings';
import { usePreferences } from './preferences';
import { useSaySettings } from './use-say-settings';

/** What there is to choose from, as the settings' own text. */
const CHOICES = {
  nodes: Object.values(SWEEP_PRESETS).map((nodes) => settingsText({ average: { nodes } })),
  milliseconds: [1000, 3000, 10_000].map((milliseconds) =>
    settingsText({ average: { milliseconds } }),
  ),
} as const;
const GROUPS = ['nodes', 'milliseconds'] as const;

const isChoice = (text: string): boolean => GROUPS.some((name) => CHOICES[name].includes(text));

/** What was chosen last. @param usual what is meant before anything was, as text */
export function useEffort(usual: string): [effort: string, choose: (effort: string) => void] {
  const { effort, set } = usePreferences();
  const chosen = effort !== null && isChoice(effort) ? effort : usual;
  return [chosen, (text) => set({ effort: text })];
}

/** How long a sweep is to look. @param value settings as text */
export function EffortSelect({ value, onChange }: { value: string; onChange(text: string): void }) {
  const t = useTranslations('sweep');
  const say = useSaySettings();
  return (
    <Form.Select
      value={value}
      style={{ width: 'auto' }}
      aria-label={t('limit')}
      title={t('limit')}
      onChange={(event) => onChange(event.target.value)}
    >
      {!isChoice(value) && <option value={value}>{say(value)}</option>}
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
