import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { getTranslations } from 'next-intl/server';
import * as z from 'zod';
import { settings } from '@/server/settings';
import { SignIn } from '@/ui/account/sign-in';
import { Masthead } from '@/ui/shell/masthead';
import { visitor } from '../visit';

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

/** A page of our own, and no other site that looks like one. */
const querySchema = z.object({
  to: z
    .string()
    .regex(/^\/(?![/\\])/)
    .max(500)
    .catch('/'),
});

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('account'))('signIn') };
}

export default async function SignInPage({ searchParams }: Props) {
  const t = await getTranslations('account');
  const { to } = querySchema.parse(await searchParams);
  if ((await visitor()).account) redirect(to);
  const { signUp, demo } = settings();
  return (
    <>
      <Masthead />
      <main className="page" id="main">
        <h1>{t('welcome')}</h1>
        <p className="lead-in">{t('welcomeText')}</p>
        <SignIn to={to} canSignUp={signUp} hasDemo={demo} />
      </main>
    </>
  );
}
