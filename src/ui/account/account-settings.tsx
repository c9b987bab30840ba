'use client';

import { useState } from 'react';
import { useTranslations } from 'next-intl';
import { changePassword, closeAccount } from '@/contract/account';
import { call } from '../call';
import { loadAnew } from '../load-anew';
import { AccountForm, PasswordField } from './account-form';

/** Another password; all other sessions end. */
export function ChangePassword() {
  const t = useTranslations('account');
  const [done, setDone] = useState(0);
  return (
    <>
      <AccountForm
        key={done}
        button={t('change')}
        send={async ({ current = '', password = '' }) => {
          await call(changePassword, { body: { current, password } });
          setDone((count) => count + 1);
        }}
      >
        <PasswordField name="current" label={t('current')} />
        <PasswordField name="password" label={t('next')} isNew />
      </AccountForm>
      <p role="status" className="m-0">
        {done > 0 && t('changed')}
      </p>
    </>
  );
}

/** The end of the account. */
export function CloseAccount() {
  const t = useTranslations('account');
  return (
    <AccountForm
      button={t('close')}
      send={async ({ password = '' }) => {
        await call(closeAccount, { body: { password } });
        loadAnew('/sign-in');
      }}
    >
      <PasswordField name="password" label={t('password')} />
    </AccountForm>
  );
}
