import { createTranslator } from 'use-intl/core';
import type { Problem } from '@/core/game/problem';
import type { PositionError } from '@/core/game/ruleset';
import en from '../../messages/en.json';

const translate = createTranslator({
  locale: 'en',
  messages: en,
  onError: () => {},
  getMessageFallback: ({ key }) => key,
});

/** A problem in words, from the catalogue of the interface. */
export const sayProblem = ({ code, params }: Pick<Problem, 'code' | 'params'>): string =>
  translate(`problem.${code}` as Parameters<typeof translate>[0], params);

export const sayPositionError = ({ code, params }: PositionError): string =>
  sayProblem({ code, params });
