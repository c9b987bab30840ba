'use client';

import { useState } from 'react';
import { useTranslations } from 'next-intl';
import { useQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { ONE_SIDE } from '@/core/ask/game-looks';
import { findSpeed } from '@/contract/review';
import type { Side } from '@/core/game/ruleset';
import { USUAL_REMARKS } from '@/core/review/remarks';
import {
  readSettingsText,
  settingsText,
  SWEEP_PRESETS,
  type Scope,
  type SweepPreset,
} from '@/core/review/sweep-settings';
import { call } from '../call';
import { Dialog } from '../dialog/dialog';
import { EffortSelect } from '../effort-select';
import { usePreferences, type Preset } from '../preferences';
import { RemarkFields } from '../remark-fields';
import { useSideName } from '../side-name';
import { useReview } from './desk-review';
import { useDesk } from './desk-store';

const BUILT_IN = Object.keys(SWEEP_PRESETS) as SweepPreset[];
const NAME_LENGTH = 40;

/** What a sweep is to look at, how long, and what is made of it. */
export function SweepChoices({
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
  const { remarks, presets, set } = usePreferences();
  const view = useDesk((state) => state.view);
  const node = useDesk((state) => state.node);
  const here = view.isMainLine(node) ? view.plyOf(node) + 1 : 1;
  const { ownSide } = useReview();
  const sideName = useSideName(view.ruleset);
  const [name, setName] = useState('');
  const [side, setSide] = useState<Side | null>(null);
  const last = view.line.length;
  const [from, setFrom] = useState(1);
  const [to, setTo] = useState(last);
  const { kind } = view.ruleset;
  const isRight = from >= 1 && from <= to && to <= last;

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
  const start = (): void => {
    onStart({
      ...(side === null ? {} : { side }),
      ...(from > 1 ? { from } : {}),
      ...(to < last ? { to } : {}),
    });
    onClose();
  };
  const moves = (side === null ? 1 : ONE_SIDE) * Math.max(0, to - from + 1);
  return (
    <Dialog title={t('title')} closeText={t('close')} size="lg" onClose={onClose}>
      <form
        className="sweep-choices"
        onSubmit={(event) => {
          event.preventDefault();
          if (isRight) start();
        }}
      >
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
        <fieldset className="d-flex flex-column gap-2">
          <legend>{t('look')}</legend>
          <EffortSelect value={effort} onChange={onEffort} />
          <p className="soft small m-0">{t('effort')}</p>
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
          </div>
          {!isRight && <p role="alert">{t('wrong', { last })}</p>}
          <Estimate effort={effort} moves={moves} />
        </fieldset>
        <RemarkFields kind={kind} value={remarks} onChange={(chosen) => set({ remarks: chosen })} />
        <p className="soft small m-0">{t('kept')}</p>
        <div>
          <Button type="submit" variant="seal" disabled={!isRight || last === 0}>
            {t('start')}
          </Button>
        </div>
      </form>
    </Dialog>
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

/** How long it is going to take, by how fast this machine has been. */
function Estimate({ effort, moves }: { effort: string; moves: number }) {
  const t = useTranslations('choices');
  const kind = useDesk(({ view }) => view.ruleset.kind);
  const { data } = useQuery({
    queryKey: ['speed', kind],
    queryFn: () => call(findSpeed, { query: { kind } }),
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
            unit: seconds < 100 ? 'seconds' : 'minutes',
            engines: data.engines,
          })}
    </p>
  );
}
