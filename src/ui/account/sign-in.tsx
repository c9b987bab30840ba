'use client';

import { useState } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { openDemo, signIn, signUp } from '@/contract/account';
import { call, succeeds } from '../call';
import { loadAnew } from '../load-anew';
import { AccountForm, NameField, PasswordField } from './account-form';

interface Props {
  /** Where it goes on from here. */
  to: string;
  /** Whether people may make accounts, and look at the demo. */
  canSignUp: boolean;
  hasDemo: boolean;
}

/** The ways in: an account, a new one, and the demo. */
export function SignIn({ to, canSignUp, hasDemo }: Props) {
  const t = useTranslations('account');
  const [isNew, setNew] = useState(false);
  const [failed, setFailed] = useState(false);
  return (
    <div className="side-by-side">
      <section className="quiet-box" aria-labelledby="own-account">
        <h2 id="own-account">{isNew ? t('signUp') : t('signIn')}</h2>
        <AccountForm
          key={String(isNew)}
          button={isNew ? t('signUp') : t('signIn')}
          send={async ({ name = '', password = '' }) => {
            await call(isNew ? signUp : signIn, { body: { name, password } });
            loadAnew(to);
          }}
        >
          <NameField />
          <PasswordField name="password" label={t('password')} isNew={isNew} />
        </AccountForm>
        {canSignUp ? (
          <Button variant="plain" className="mt-2" onClick={() => setNew(!isNew)}>
            {isNew ? t('haveOne') : t('haveNone')}
          </Button>
        ) : (
          <p className="soft small mt-2 mb-0">{t('closedHere')}</p>
        )}
        <p className="soft small mt-2 mb-0">{t('forgotten')}</p>
      </section>
      {hasDemo && (
        <section className="quiet-box" aria-labelledby="demo-account">
          <h2 id="demo-account">{t('demo')}</h2>
          <p>{t('demoText')}</p>
          <Button
            variant="seal"
            onClick={() =>
              void succeeds(call(openDemo)).then((isOpen) =>
                isOpen ? loadAnew(to) : setFailed(true),
              )
            }
          >
            {t('openDemo')}
          </Button>
          {failed && (
            <p role="alert" className="mt-2 mb-0">
              {t('problem.other')}
            </p>
          )}
        </section>
      )}
    </div>
  );
}
