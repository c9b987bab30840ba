'use client';

import { useState, type ReactNode } from 'react';
import { useTranslations } from 'next-intl';
import { useQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { listBases } from '@/contract/bases';
import { findSpeed } from '@/contract/review';
import type { GameKind } from '@/core/game/ruleset';
import { USUAL_REMARKS } from '@/core/review/remarks';
import {
  readSettingsText,
  settingsText,
  SWEEP_PRESETS,
  type Scope,
  type SweepPreset,
} from '@/core/review/sweep-settings';
import { call } from './call';
import { Dialog } from './dialog/dialog';
import { EffortSelect } from './effort-select';
import { usePreferences, type Preset } from './preferences';
import { RemarkFields } from './remark-fields';

const BUILT_IN = Object.keys(SWEEP_PRESETS) as SweepPreset[];
const NAME_LENGTH = 40;

/** How sweeps look, how long, and what is made of what they find; `children`: which moves they go over. */
export function SweepChoices({
  kind,
  effort,
  moves,
  problem,
  onEffort,
  onStart,
  onClose,
  children,
}: {
  /** Null: games of both kinds. */
  kind: GameKind | null;
  /** Settings as text. */
  effort: string;
  /** How many there are to go over, to tell how long that takes. */
  moves: number;
  /** Why they can't be gone over as chosen. */
  problem: string | null;
  onEffort(effort: string): void;
  onStart(): void;
  onClose(): void;
  children: ReactNode;
}) {
  const t = useTranslations('choices');
  const { remarks, set } = usePreferences();
  return (
    <Dialog title={t('title')} closeText={t('close')} size="lg" onClose={onClose}>
      <form
        className="sweep-choices"
        onSubmit={(event) => {
          event.preventDefault();
          if (problem !== null || moves === 0) return;
          onStart();
          onClose();
        }}
      >
        <PresetList effort={effort} onEffort={onEffort} />
        <fieldset className="d-flex flex-column gap-2">
          <legend>{t('look')}</legend>
          <EffortSelect value={effort} onChange={onEffort} />
          <p className="soft small m-0">{t('effort')}</p>
          {children}
          {problem !== null && <p role="alert">{problem}</p>}
          <Estimate kind={kind} effort={effort} moves={moves} />
        </fieldset>
        <RemarkFields kind={kind} value={remarks} onChange={(chosen) => set({ remarks: chosen })} />
        <p className="soft small m-0">{t('kept')}</p>
        <div>
          <Button type="submit" variant="seal" disabled={problem !== null || moves === 0}>
            {t('start')}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

/** Choices under a name: three that explain themselves, and a person's own. */
function PresetList({ effort, onEffort }: { effort: string; onEffort(effort: string): void }) {
  const t = useTranslations('choices');
  const { remarks, presets, set } = usePreferences();
  const [name, setName] = useState('');
  const use = (preset: Preset): void => {
    onEffort(preset.effort);
    set({ remarks: preset.remarks });
  };
  const builtIn = BUILT_IN.map((preset): Preset => ({
    name: preset,
    effort: settingsText({ average: { nodes: SWEEP_PRESETS[preset] } }),
    remarks: USUAL_REMARKS,
  }));
  const isUsed = (preset: Preset): boolean =>
    preset.effort === effort && JSON.stringify(preset.remarks) === JSON.stringify(remarks);
  const keep = (): void => {
    const kept = { name: name.trim(), effort, remarks };
    set({ presets: [...presets.filter((one) => one.name !== kept.name), kept] });
    setName('');
  };
  return (
    <fieldset>
      <legend>{t('presets')}</legend>
      {builtIn.map((preset) => (
        <PresetRow
          key={preset.name}
          name={t(`names.${preset.name as SweepPreset}`)}
          about={t(`about.${preset.name as SweepPreset}`)}
          isUsed={isUsed(preset)}
          onUse={() => use(preset)}
        />
      ))}
      {presets.map((preset) => (
        <PresetRow
          key={preset.name}
          name={preset.name}
          isUsed={isUsed(preset)}
          onUse={() => use(preset)}
          onDrop={() => set({ presets: presets.filter((one) => one !== preset) })}
        />
      ))}
      <div className="d-flex gap-2 mt-2">
        <Form.Control
          size="sm"
          value={name}
          maxLength={NAME_LENGTH}
          aria-label={t('name')}
          placeholder={t('name')}
          onChange={(event) => setName(event.target.value)}
        />
        <Button
          variant="plain"
          className="text-nowrap"
          disabled={name.trim() === ''}
          onClick={keep}
        >
          {t('keep')}
        </Button>
      </div>
    </fieldset>
  );
}

function PresetRow({
  name,
  about,
  isUsed,
  onUse,
  onDrop,
}: {
  name: string;
  about?: string;
  isUsed: boolean;
  onUse(): void;
  onDrop?: () => void;
}) {
  const t = useTranslations('choices');
  return (
    <div className="d-flex align-items-baseline gap-2">
      <Button variant="plain" aria-pressed={isUsed} onClick={onUse}>
        {name}
      </Button>
      {about && <span className="soft small">{about}</span>}
      {onDrop && (
        <Button variant="plain" aria-label={t('drop', { name })} onClick={onDrop}>
          {'×'}
        </Button>
      )}
    </div>
  );
}

const OVER = ['played', 'variations', 'both'] as const;

/** Whether the moves that were played are gone over, or those of variations. */
export function OverSelect({
  value,
  onChange,
}: {
  value: Scope['over'];
  onChange(over: Scope['over']): void;
}) {
  const t = useTranslations('choices');
  return (
    <Form.Group controlId="over">
      <Form.Label>{t('over')}</Form.Label>
      <Form.Select
        value={value ?? 'played'}
        onChange={({ target }) =>
          onChange(target.value === 'played' ? undefined : (target.value as Scope['over']))
        }
      >
        {OVER.map((over) => (
          <option key={over} value={over}>
            {t(`overs.${over}`)}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  );
}

/** Of which base known moves are passed over; nothing where there is no base. */
export function KnownSelect({
  kind,
  value,
  onChange,
}: {
  /** Null: games of both kinds. */
  kind: GameKind | null;
  value: Scope['known'];
  onChange(base: Scope['known']): void;
}) {
  const t = useTranslations('choices');
  const { data: bases = [] } = useQuery({
    queryKey: ['bases', 'list', kind],
    queryFn: () => call(listBases, { query: kind ? { kind } : {} }),
  });
  if (bases.length === 0) return null;
  return (
    <Form.Group controlId="known">
      <Form.Label>{t('known')}</Form.Label>
      <Form.Select
        value={value ?? ''}
        onChange={({ target }) => onChange(target.value === '' ? undefined : Number(target.value))}
      >
        <option value="">{t('knownNone')}</option>
        {bases.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  );
}

/** How long it is going to take, by how fast this machine has been. */
function Estimate({
  kind,
  effort,
  moves,
}: {
  kind: GameKind | null;
  effort: string;
  moves: number;
}) {
  const t = useTranslations('choices');
  const { data } = useQuery({
    queryKey: ['speed', kind],
    queryFn: () => call(findSpeed, { query: kind ? { kind } : {} }),
  });
  const settings = readSettingsText(effort);
  if (!data || !('average' in settings)) return null;
  const { nodes, milliseconds = 0 } = settings.average;
  const seconds =
    nodes === undefined
      ? (moves * milliseconds) / 1000 / data.engines
      : data.nodesPerSecond && (moves * nodes) / data.nodesPerSecond;
  return (
    <p className="m-0" role="status">
      {seconds === null || seconds === 0
        ? t('unmeasured')
        : t('estimate', {
            seconds: Math.max(1, Math.round(seconds)),
            minutes: Math.round(seconds / 60),
            hours: Math.round(seconds / 3600),
            unit: seconds < 100 ? 'seconds' : seconds < 100 * 60 ? 'minutes' : 'hours',
            engines: data.engines,
          })}
    </p>
  );
}
