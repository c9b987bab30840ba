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
  bases?: readonly { id: number; name: string }[];
  onGiven?(): void;
}

const PROBLEMS = ['missing', 'nobody', 'self', 'tooMany'] as const;

/** Gives something to a person of that name, or makes a link to it. */
export function GrantForm({ game, collections = [], bases = [], onGiven }: Props) {
  const t = useTranslations('given');
  const router = useRouter();
  const [chosen, setChosen] = useState('all');
  const [isPerson, setPerson] = useState(true);
  const [problem, setProblem] = useState<string | null>(null);
  const [made, setMade] = useState<Grant | null>(null);
  const [of, id] = chosen.split(' ');
  const scope: GrantScope =
    game !== undefined
      ? { of: 'game', id: game }
      : of === 'collection' || of === 'base'
        ? { of, id: Number(id) }
        : { of: 'all' };
  // a base is asked, and given to people alone
  const isBase = scope.of === 'base';
  const toPerson = isPerson || isBase;
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
          scope,
          to: toPerson ? text('to') : null,
          right: toPerson && !isBase ? (text('right') as Granted) : 'read',
          until: text('until') || null,
        },
      });
      setMade(grant);
      form.reset();
      setChosen('all');
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
          <Form.Select value={chosen} onChange={({ target }) => setChosen(target.value)}>
            <option value="all">{t('all')}</option>
            {collections.map(({ id, name }) => (
              <option key={id} value={`collection ${id}`}>
                {t('collection', { name })}
              </option>
            ))}
            {bases.map(({ id, name }) => (
              <option key={id} value={`base ${id}`}>
                {t('base', { name })}
              </option>
            ))}
          </Form.Select>
        </label>
      )}
      {!isBase && (
        <label>
          {t('toWhom')}
          <Form.Select
            value={String(toPerson)}
            onChange={({ target }) => setPerson(target.value === 'true')}
          >
            <option value="true">{t('person')}</option>
            <option value="false">{t('anyone')}</option>
          </Form.Select>
        </label>
      )}
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
          {!isBase && (
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
          )}
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
