'use client';

import { useState, type FormEvent, type ReactNode } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { NAME_LENGTH, PASSWORD_LENGTH } from '@/contract/account';
import { Refused } from '../call';

const PROBLEMS = ['closed', 'taken', 'wrong', 'demo', 'tooMany'] as const;

interface Props {
  /** What is filled in is sent by this; why it is refused is told. */
  send(fields: Readonly<Record<string, string>>): Promise<void>;
  button: string;
  children: ReactNode;
}

/** Fields about an account, what sends them, and what is wrong with them. */
export function AccountForm({ send, button, children }: Props) {
  const t = useTranslations('account');
  const [problem, setProblem] = useState<string | null>(null);
  const [isSending, setSending] = useState(false);
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const fields = Object.fromEntries(
      [...new FormData(event.currentTarget)].map(([name, value]) => [name, String(value)]),
    );
    setSending(true);
    setProblem(null);
    try {
      await send(fields);
    } catch (error) {
      const code = error instanceof Refused ? error.code : null;
      setProblem(t(`problem.${PROBLEMS.find((known) => known === code) ?? 'other'}`));
    } finally {
      setSending(false);
    }
  };
  return (
    <form className="d-flex flex-column gap-2" onSubmit={(event) => void submit(event)}>
      {children}
      {problem && (
        <p role="alert" className="m-0">
          {problem}
        </p>
      )}
      <Button type="submit" variant="seal" className="align-self-start" disabled={isSending}>
        {button}
      </Button>
    </form>
  );
}

export function NameField() {
  const t = useTranslations('account');
  return (
    <label className="form-label m-0">
      {t('name')}
      <input
        name="name"
        className="form-control"
        autoComplete="username"
        required
        minLength={NAME_LENGTH.least}
        maxLength={NAME_LENGTH.most}
      />
    </label>
  );
}

interface PasswordProps {
  name: string;
  label: string;
  /** One that is being chosen, and must be long enough. */
  isNew?: boolean;
}

export function PasswordField({ name, label, isNew = false }: PasswordProps) {
  const t = useTranslations('account');
  return (
    <label className="form-label m-0">
      {label}
      <input
        name={name}
        type="password"
        className="form-control"
        autoComplete={isNew ? 'new-password' : 'current-password'}
        required
        minLength={isNew ? PASSWORD_LENGTH.least : 1}
        maxLength={PASSWORD_LENGTH.most}
      />
      {isNew && <span className="soft small">{t('length', { least: PASSWORD_LENGTH.least })}</span>}
    </label>
  );
}
