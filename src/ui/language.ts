export const LANGUAGES = ['en', 'ja'] as const;
export type Language = (typeof LANGUAGES)[number];

export const LANGUAGE_COOKIE = 'bektra-language';

export const isLanguage = (text: string | undefined): text is Language =>
  LANGUAGES.some((language) => language === text);
