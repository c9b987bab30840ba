import { cookies, headers } from 'next/headers';
import { getRequestConfig } from 'next-intl/server';
import en from '../../messages/en.json';
import ja from '../../messages/ja.json';
import { isLanguage, LANGUAGE_COOKIE, type Language } from '@/ui/language';

const CATALOGUES: Record<Language, typeof en> = { en, ja };

/** The language that was chosen, else the first that the browser asks for and there is a catalogue of, else English. */
async function language(): Promise<Language> {
  const chosen = (await cookies()).get(LANGUAGE_COOKIE)?.value;
  if (isLanguage(chosen)) return chosen;
  const asked = (await headers()).get('accept-language') ?? '';
  const wanted = asked.split(',').map((part) => part.trim().slice(0, 2).toLowerCase());
  return wanted.find(isLanguage) ?? 'en';
}

export default getRequestConfig(async () => {
  const locale = await language();
  return { locale, messages: CATALOGUES[locale], timeZone: 'UTC' };
});
