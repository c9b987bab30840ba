import type { Problem } from '@/core/game/problem';

/** A problem in words, from the catalogue of the interface, which is loaded only where there is something to say. */
export async function sayProblem({
  code,
  params,
}: Pick<Problem, 'code' | 'params'>): Promise<string> {
  const [{ createTranslator }, { default: en }] = await Promise.all([
    import('use-intl/core'),
    import('../../messages/en.json'),
  ]);
  const translate = createTranslator({
    locale: 'en',
    messages: en,
    onError: () => {},
    getMessageFallback: ({ key }) => key,
  });
  return translate(`problem.${code}` as Parameters<typeof translate>[0], params);
}
