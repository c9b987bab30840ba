'use client';

import { useTranslations } from 'next-intl';
import type { UseFormReturn } from 'react-hook-form';
import { RESULTS } from '@/core/game/result';
import type { GameKind } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import type { Header } from './game-header';
import { useSideName } from './side-name';

/** The fields of a game's header, in rows. */
export function HeaderFields({ kind, form }: { kind: GameKind; form: UseFormReturn<Header> }) {
  const t = useTranslations('entry');
  const sideName = useSideName(rulesetOf(kind));
  return (
    <>
      <Field form={form} name="first" label={sideName(0)} className="col-8 col-md-4" />
      <Field form={form} name="firstRating" label={t('rating')} className="col-4 col-md-2" />
      <Field form={form} name="second" label={sideName(1)} className="col-8 col-md-4" />
      <Field form={form} name="secondRating" label={t('rating')} className="col-4 col-md-2" />
      <Field form={form} name="event" label={t('event')} className="col-8 col-md-4" />
      <Field form={form} name="round" label={t('round')} className="col-4 col-md-2" />
      <Field
        form={form}
        name="date"
        label={t('date')}
        className="col-6 col-md-3"
        placeholder={t('datePlaceholder')}
      />
      <Field
        form={form}
        name="timeControl"
        label={t('timeControl')}
        className="col-6 col-md-3"
        placeholder={kind === 'chess' ? '5400+30' : '1時間+60秒'}
      />
      <div className="col-6 col-md-3">
        <label className="form-label" htmlFor="result">
          {t('result')}
        </label>
        <select id="result" className="form-select" {...form.register('result')}>
          {RESULTS.map((result) => (
            <option key={result} value={result}>
              {result === '*' ? t('unfinished') : result}
            </option>
          ))}
        </select>
      </div>
    </>
  );
}

function Field({
  form,
  name,
  label,
  className,
  placeholder,
}: {
  form: UseFormReturn<Header>;
  name: keyof Header;
  label: string;
  className: string;
  placeholder?: string;
}) {
  const t = useTranslations('entry');
  const invalid = form.formState.errors[name] !== undefined;
  return (
    <div className={className}>
      <label className="form-label" htmlFor={name}>
        {label}
      </label>
      <input
        id={name}
        className="form-control"
        placeholder={placeholder}
        aria-invalid={invalid}
        {...form.register(name)}
      />
      {invalid && (
        <span role="alert" className="small">
          {t(`invalid.${name === 'date' ? 'date' : name.endsWith('Rating') ? 'rating' : 'text'}`)}
        </span>
      )}
    </div>
  );
}
