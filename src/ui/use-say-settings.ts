'use client';

import { useTranslations } from 'next-intl';
import {
  readSettingsText,
  SWEEP_PRESETS,
  type Scope,
  type SweepPreset,
  type SweepSettings,
} from '@/core/review/sweep-settings';

const PRESET_NAMES = Object.keys(SWEEP_PRESETS) as SweepPreset[];

/** Says in words how a sweep looks, from the text under which it is stored. */
export function useSaySettings(): (settings: string) => string {
  const t = useTranslations('sweep.limits');
  const scope = useTranslations('sweep.scope');
  /** Which moves alone were gone over. */
  const sayScope = ({ side, from, to, over, known }: Scope = {}): string =>
    [
      ...(over === undefined ? [] : [scope(over === 'both' ? 'withVariations' : 'variations')]),
      ...(side === undefined ? [] : [scope('side')]),
      ...(from === undefined && to === undefined
        ? []
        : [scope('stretch', { from: from ?? 1, to: to ?? '' })]),
      ...(known === undefined ? [] : [scope('withoutKnown')]),
    ]
      .map((part) => `, ${part}`)
      .join('');
  return (text) => {
    const settings = readSettingsText(text);
    return sayEffort(settings) + ('average' in settings ? sayScope(settings.moves) : '');
  };

  function sayEffort(settings: SweepSettings): string {
    if (!('average' in settings)) {
      const { depth, nodes, milliseconds = 0 } = settings;
      if (depth !== undefined) return t('depth', { value: depth });
      if (nodes !== undefined) return t('nodes', { value: nodes });
      return t('milliseconds', { seconds: milliseconds / 1000 });
    }
    const { nodes, milliseconds = 0 } = settings.average;
    if (nodes === undefined) return t('averageTime', { seconds: milliseconds / 1000 });
    const preset = PRESET_NAMES.find((name) => SWEEP_PRESETS[name] === nodes);
    return preset ? t(preset, { value: nodes }) : t('averageNodes', { value: nodes });
  }
}
