'use client';

import { useState, type FormEvent } from 'react';
import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { NAME_LENGTH } from '@/contract/account';
import { makeGrant, type Grant, type GrantScope } from '@/contract/grants';
import { GRANTED, type Granted } from '@/contract/rights';
import { call, Refused } from '../call';
import { CopyLink } from './copy-link';

interface Props {
  /** What can be given: this game, or whatever is chosen of all games and collections. */
  game?: number;
  collections?: readonly { id: number; name: string }[];
  onGiven?(): void;
}

const PROBLEMS = ['missing', 'nobody', 'self', 'tooMany'] as const;

/** Gives something to a person of that name, or makes a link to it. */
export function GrantForm({ game, collections = [], onGiven }: Props) {
  const t = useTranslations('given');
  const router = useRouter();
  const [toPerson, setToPerson] = useState(true);
  const [problem, setProblem] = useState<string | null>(null);
  const [made, setMade] = useState<Grant | null>(null);
  const scopeOf = (chosen: string): GrantScope =>
    game !== undefined
      ? { of: 'game', id: game }
      : chosen === 'all'
        ? { of: 'all' }
        : { of: 'collection', id: Number(chosen) };
  const give = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = event.currentTarget;
    const fields = new FormData(form);
    const text = (name: string): string => String(fields.get(name) ?? '');
    setProblem(null);
    setMade(null);
    try {
      const grant = await call(makeGrant, {
        body: {
          scope: scopeOf(text('scope')),
          to: toPerson ? text('to') : null,
          right: toPerson ? (text('right') as Granted) : 'read',
          until: text('until') || null,
        },
      });
      setMade(grant);
      form.reset();
      onGiven?.();
      router.refresh();
    } catch (error) {
      const code = error instanceof Refused ? error.code : null;
      setProblem(t(`problem.${PROBLEMS.find((known) => known === code) ?? 'other'}`));
    }
  };
  return (
    <form className="grant-form" onSubmit={(event) => void give(event)}>
      {game === undefined && (
        <label>
          {t('what')}
          <Form.Select name="scope" defaultValue="all">
            <option value="all">{t('all')}</option>
            {collections.map(({ id, name }) => (
              <option key={id} value={id}>
                {t('collection', { name })}
              </option>
            ))}
          </Form.Select>
        </label>
      )}
      <label>
        {t('toWhom')}
        <Form.Select
          value={String(toPerson)}
          onChange={({ target }) => setToPerson(target.value === 'true')}
        >
          <option value="true">{t('person')}</option>
          <option value="false">{t('anyone')}</option>
        </Form.Select>
      </label>
      {toPerson && (
        <>
          <label>
            {t('name')}
            <Form.Control
              name="to"
              required
              minLength={NAME_LENGTH.least}
              maxLength={NAME_LENGTH.most}
              autoComplete="off"
            />
          </label>
          <label>
            {t('right')}
            <Form.Select name="right" defaultValue="read">
              {GRANTED.map((right) => (
                <option key={right} value={right}>
                  {t(`may.${right}`)}
                </option>
              ))}
            </Form.Select>
          </label>
        </>
      )}
      <label>
        {t('until')}
        <Form.Control name="until" type="date" />
      </label>
      <Button type="submit" variant="seal">
        {toPerson ? t('give') : t('makeLink')}
      </Button>
      {problem && (
        <p role="alert" className="w-100 m-0">
          {problem}
        </p>
      )}
      {made && (
        <p role="status" className="w-100 m-0">
          {made.link === null ? t('done', { name: made.grantee ?? '' }) : t('linkMade')}{' '}
          {made.link !== null && <CopyLink link={made.link} />}
        </p>
      )}
    </form>
  );
}
