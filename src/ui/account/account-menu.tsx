'use client';

import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { useTranslations } from 'next-intl';
import Dropdown from 'react-bootstrap/Dropdown';
import { Person } from 'react-bootstrap-icons';
import { signOut } from '@/contract/account';
import { call, succeeds } from '../call';
import { loadAnew } from '../load-anew';
import { useAccount } from './account';

/** Who is signed in, what is theirs, and the way out; else the way in. */
export function AccountMenu() {
  const t = useTranslations('account');
  const account = useAccount();
  const path = usePathname();
  if (!account)
    return path === '/sign-in' ? null : (
      <a className="btn btn-plain" href="/sign-in">
        {t('signIn')}
      </a>
    );
  const leave = async (): Promise<void> => {
    if (await succeeds(call(signOut))) loadAnew('/sign-in');
  };
  return (
    <Dropdown align="end">
      <Dropdown.Toggle
        variant="plain"
        className="account-name"
        title={t('menu')}
        aria-label={account.name}
      >
        <Person aria-hidden="true" /> <span className="d-none d-sm-inline">{account.name}</span>
      </Dropdown.Toggle>
      <Dropdown.Menu>
        <Dropdown.Item as={Link} href="/account">
          {t('title')}
        </Dropdown.Item>
        <Dropdown.Item as={Link} href="/given">
          {t('given')}
        </Dropdown.Item>
        <Dropdown.Divider />
        <Dropdown.Item as="button" onClick={() => void leave()}>
          {t('signOut')}
        </Dropdown.Item>
      </Dropdown.Menu>
    </Dropdown>
  );
}
